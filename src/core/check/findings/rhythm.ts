import { countText, numberText } from '../../view/numbers.ts'
import type { Stretch } from '../rhythm/rhythm.ts'
import { called, finding, type FindingContext, type FindingId, type FindingRule } from './finding-rule.ts'

const minutes = (n: number) => numberText(Math.round(n * 10) / 10)

/** drought: longer than the plan wants with nothing new. */
export const drought: FindingRule = (context) =>
  stretches(context, 'drought', (rhythm) => rhythm.droughts, (stretch, place) => `For ${minutes(stretch.to - stretch.from)} minutes from ${place} on, nothing new comes`)

/** pile-up: more unlocks at once than the plan wants. */
export const pileUp: FindingRule = (context) =>
  stretches(context, 'pile-up', (rhythm) => rhythm.pileUps, (stretch, place) => `${countText(stretch.unlocks, 'unlock')} come within ${minutes(stretch.to - stretch.from)} minutes at ${place}`)

type Rhythms = FindingContext['rhythms'][number]['rhythm']

/** One finding for each place of a route at which such a stretch begins, at its worst for any kind of player. */
function stretches({ game, rhythms }: FindingContext, id: FindingId, of: (rhythm: Rhythms) => readonly Stretch[], says: (stretch: Stretch, place: string) => string) {
  const worst = new Map<string, { route: string; profile: string; stop: number; stretch: Stretch }>()
  const size = ({ from, to, unlocks }: Stretch) => unlocks || to - from
  for (const { route, profile, rhythm } of rhythms) {
    for (const stretch of of(rhythm)) {
      const key = `${route} ${stretch.stop}`
      const before = worst.get(key)
      if (!before || size(stretch) > size(before.stretch)) worst.set(key, { route, profile, stop: stretch.stop, stretch })
    }
  }
  return [...worst.values()].map(({ route, profile, stop, stretch }) => {
    const place = game.places[game.routes.find((found) => found.id === route)!.stops[stop]!]!
    return finding(id, 'note', 'place', place.id, `${says(stretch, called(place))} (${profile}).`, { route, profile })
  })
}
