/** Steps that are asked for in trying what can be left out: of long lists not everything is tried. */
const effort = 200_000

/**
 * A list without those of some of its entries that can be left out, the last first: many at once where that can be, else one by
 * one. `isPossible`: whether a shorter list still does.
 */
export function withoutNeedless<T extends object>(all: readonly T[], some: readonly T[], isPossible: (fewer: readonly T[]) => boolean): readonly T[] {
  let kept = all
  let left = effort
  const leaveOut = (from: number, to: number): void => {
    const out = new Set(some.slice(from, to))
    const fewer = kept.filter((entry) => !out.has(entry))
    left -= fewer.length
    if (left < 0 || out.size === 0) return
    if (isPossible(fewer)) {
      kept = fewer
      return
    }
    if (to - from === 1) return
    const middle = (from + to) >> 1
    leaveOut(middle, to)
    leaveOut(from, middle)
  }
  leaveOut(0, some.length)
  return kept
}
