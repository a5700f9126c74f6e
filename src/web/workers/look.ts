/**
 * How well verdicts are known: of the first stops alone, and of the others as they were before (near); of all, but drawn with few walks
 * (rough); of all. Each comes sooner than the next.
 */
export type Look = 'near' | 'rough' | 'settled'

/** What is asked for when a look is there. */
export const betterThan: Record<Look, Look | null> = { near: 'rough', rough: 'settled', settled: null }
