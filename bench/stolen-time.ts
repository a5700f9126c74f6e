import { readFileSync } from 'node:fs'

/** Ticks of all cores since the machine was started, as Linux counts them; null on other systems. */
function ticks(): { stolen: number; all: number } | null {
  try {
    const counts = readFileSync('/proc/stat', 'utf8').split('\n', 1)[0]!.trim().split(/\s+/).slice(1, 9).map(Number)
    return { stolen: counts[7]!, all: counts.reduce((sum, count) => sum + count, 0) }
  } catch {
    return null
  }
}

/**
 * How much of a shared machine's time has gone to others since it was last asked, from 0 to 1; 0 where that is not told. What is measured
 * meanwhile takes longer by that and more.
 */
export function stolenTime(): () => number {
  let before = ticks()
  return () => {
    const now = ticks()
    const share = now && before && now.all > before.all ? (now.stolen - before.stolen) / (now.all - before.all) : 0
    before = now
    return share
  }
}
