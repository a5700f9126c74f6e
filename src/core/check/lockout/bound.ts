/** How far the search may look; past either bound it says that it has not decided. */
export interface LockoutBound {
  states: number
  milliseconds: number
  /** A clock in milliseconds; null: only the states are counted. */
  now: (() => number) | null
  /** States of which all are looked at before it is asked whether there is no hope from some of them. */
  few: number
}

/** Tells whether time is up, from when it is first asked. */
export function timer({ now, milliseconds }: LockoutBound): () => boolean {
  let started: number | null = null
  return () => now !== null && now() - (started ??= now()) > milliseconds
}

export const defaultBound: LockoutBound = { states: 2_000_000, milliseconds: 10_000, now: null, few: 30_000 }
