import { labelOf } from '../../plan/label-of.ts'
import type { Game } from '../../rules/game.ts'

/** Along which of several routes something is so: ` on Main line and Detour`; nothing in a plan with one route. */
export function along({ routes }: Game, ids: readonly string[]): string {
  if (routes.length < 2) return ''
  return ` on ${routes.filter(({ id }) => ids.includes(id)).map(labelOf).join(' and ')}`
}
