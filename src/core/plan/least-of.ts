/** The least whole number from one to before another of which something is true that is true of all above; else the end. */
export function leastOf(from: number, end: number, isTrue: (value: number) => boolean): number {
  let low = from
  let high = end
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (isTrue(middle)) high = middle
    else low = middle + 1
  }
  return low
}
