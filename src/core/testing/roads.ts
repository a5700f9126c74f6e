import fc from 'fast-check'
import type { Diff } from '../change/diff.ts'
import { moveItem, setFields } from '../change/edits.ts'
import type { Records, Row } from '../plan/records.ts'
import { samplePlan } from '../sample/sample-plan.ts'
import { recordsOf } from './plans.ts'

type Item = { source: Record<string, unknown> } | { gate: Record<string, unknown> }

/** What a gate asks of a player who takes half of what there is on the side: some have it, and some have not. */
export interface Ask {
  of: 'stamps' | 'renown' | 'level' | 'both'
  /** As a share of what there is by then, about. */
  share: number
  fields: Record<string, unknown>
}

export const anyAsk: fc.Arbitrary<Ask> = fc.record({
  of: fc.constantFrom('stamps', 'renown', 'level', 'both'),
  share: fc.double({ min: 0.3, max: 1.2, noNaN: true }),
  fields: fc.constantFrom({}, { stays: 'live' }, { due: 'meeting' }, { due: 'route' }, { due: 'stop' }, { yields: [{ tally: 'lamp_glass', min: 1, max: 1 }] }),
})

/** A long road of short places, for a kind of player who leaves units to chance: most of its gates open for some and not for others. */
export function roadOf(seed: number, asks: readonly Ask[]): Records {
  const plan = samplePlan({ places: 13, sources: 52, gates: 39, seed }) as { places: { id: string; contents: Item[] }[]; routes: { stops: string[] }[] }
  // Now and then the road goes back to a place before.
  plan.routes[0]!.stops = plan.places.flatMap(({ id }, p) => (p % 3 === 2 ? [id, plan.places[p - 1]!.id] : [id]))
  let met = 0
  plan.places.forEach(({ contents }, p) => {
    for (const item of contents) {
      // What not all can pay for is drawn.
      if ('source' in item) item.source.takes = []
      if (!('gate' in item)) continue
      const ask = asks[met++ % asks.length]!
      const [stamps, renown, level] = [Math.ceil(4 + 1.5 * p * ask.share), Math.ceil((p + 1) * 200 * ask.share), Math.ceil(1 + (p / 2) * ask.share)]
      const requires = { stamps: `stamps >= ${stamps}`, renown: `renown >= ${renown}`, level: `level >= ${level}`, both: `level >= ${level} and stamps >= ${Math.ceil(stamps / 2)}` }[ask.of]
      // Caps are set for everybody: at which of them XP is lost is followed gain by gain.
      const asked = (item.gate.caps as unknown[]).length ? { requires: `visited(${plan.places[p]!.id})` } : { requires, ...ask.fields }
      Object.assign(item.gate, { costs: [], ...asked })
    }
  })
  return recordsOf(plan)
}

/** What is typed: mostly numbers, for then what feeds what stays as it is. */
export interface Edit {
  of: 'count' | 'threshold' | 'yields' | 'move'
  which: number
  number: number
}

export const anyEdit: fc.Arbitrary<Edit> = fc.record({
  of: fc.oneof({ weight: 5, arbitrary: fc.constant('count' as const) }, { weight: 2, arbitrary: fc.constant('threshold' as const) }, { weight: 1, arbitrary: fc.constantFrom('yields' as const, 'move' as const) }),
  which: fc.nat(1000),
  number: fc.integer({ min: 1, max: 6 }),
})

export function diffOf(records: Records, { of, which, number }: Edit): Diff {
  const kind = of === 'threshold' ? 'gate' : 'source'
  const all = [...records[kind].values()]
  const row = all[which % all.length]!
  const places = [...records.place.keys()]
  if (of === 'move') return moveItem(records, { kind: 'source', row: row as Row<'source'> }, { place: places[(which * number) % places.length]!, after: null })
  const fields = { count: { count: number }, threshold: { requires: row.requires.replace(/\d+/, String(number * 3)) }, yields: { yields: [{ tally: 'stamps', min: number / 2, max: number / 2 }] } }[of]
  return setFields(records, kind, row.key, fields as never, 'an edit')
}
