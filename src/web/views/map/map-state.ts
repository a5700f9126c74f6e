import type { Verdict } from '../../../core/check/result.ts'
import type { MapGate, MapPassage, MapWaves } from '../../../core/view/map.ts'

/** How something stands at a wave: had, had in the next one, later, or never. */
export type Standing = 'open' | 'next' | 'later' | 'never'

export function standingOf(waves: MapWaves, repeats: boolean, wave: number): Standing {
  const own = repeats ? waves.repeated : waves.once
  if (own === null) return 'never'
  return own <= wave ? 'open' : own === wave + 1 ? 'next' : 'later'
}

/** The mark of each standing, told by its shape as well as its colour. */
export const standingMarks: Record<Standing, { verdict: Verdict; word: string }> = {
  open: { verdict: 'clear', word: 'open' },
  next: { verdict: 'depends', word: 'opens next' },
  later: { verdict: 'short', word: 'opens later' },
  never: { verdict: 'sealed', word: 'never opens' },
}

/** Whether a passage can be gone through at a wave: one end is reached, and every gate on it is open. */
export function isWalkable({ from, to, gates }: MapPassage, placeOpen: ReadonlySet<string>, gateOf: ReadonlyMap<string, MapGate>, repeats: boolean, wave: number): boolean {
  return (placeOpen.has(from) || placeOpen.has(to)) && gates.every((key) => standingOf(gateOf.get(key)!.waves, repeats, wave) === 'open')
}
