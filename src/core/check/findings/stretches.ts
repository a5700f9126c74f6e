import { labelOf } from '../../plan/label-of.ts'
import { numberText } from '../../view/numbers.ts'
import type { Rhythm, Stretch } from '../rhythm/rhythm.ts'
import type { Finding } from '../result.ts'
import { along } from './along.ts'
import { finding, type FindingContext, type FindingId } from './finding-rule.ts'

export const minutes = (n: number) => numberText(Math.round(n * 10) / 10)

/** One finding for each place at which such a stretch begins, at its worst for any route and kind of player. */
export function stretches({ game, played }: FindingContext, id: FindingId, of: (rhythm: Rhythm) => readonly Stretch[], says: (stretch: Stretch, place: string) => string): Finding[] {
  const worst = new Map<number, { route: string; profile: string; place: number; stretch: Stretch }>()
  const size = ({ from, to, unlocks }: Stretch) => unlocks || to - from
  for (const { route, profile, rhythm } of played) {
    for (const stretch of of(rhythm)) {
      const place = game.routes.find((found) => found.id === route)!.stops[stretch.stop]!
      const before = worst.get(place)
      if (!before || size(stretch) > size(before.stretch)) worst.set(place, { route, profile, place, stretch })
    }
  }
  return [...worst.values()].map(({ route, profile, place: p, stretch }) => {
    const place = game.places[p]!
    return finding(id, 'note', 'place', place.id, `${says(stretch, labelOf(place))}${along(game, [route])} (${profile}).`, { route, profile })
  })
}
