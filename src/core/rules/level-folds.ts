import type { State } from './state.ts'

interface Fold {
  /** Takes a level more, of the `n`th present, into what there is so far of those before. */
  add: (so: number, level: number, n: number) => number
  /** What all `n` have come to; absent: as it stands. */
  end?: (so: number, n: number) => number
}

export type LevelFold = 'lowest' | 'highest' | 'average'

/** What is asked of the levels of all who are present; 0 when none is (docs/model.md 6). */
export const levelFolds: Record<LevelFold, Fold> = {
  lowest: { add: (so, level, n) => (n === 1 ? level : Math.min(so, level)) },
  highest: { add: (so, level) => Math.max(so, level) },
  average: { add: (so, level) => so + level, end: (so, n) => so / n },
}

export function isLevelFold(name: string): name is LevelFold {
  return Object.hasOwn(levelFolds, name)
}

/** What the levels of all who are present come to. */
export function foldedLevels(name: LevelFold, { level, present }: State): number {
  const { add, end } = levelFolds[name]
  let so = 0
  let n = 0
  for (let c = 0; c < level.length; c++) if (present[c]) so = add(so, level[c]!, ++n)
  return end && n ? end(so, n) : so
}
