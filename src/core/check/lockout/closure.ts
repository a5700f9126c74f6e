/** All that steps lead to from where one begins, that too, in the order in which they do. */
export function closure(begin: number, steps: (p: number) => readonly number[]): Set<number> {
  const seen = new Set([begin])
  for (const p of seen) for (const to of steps(p)) seen.add(to)
  return seen
}
