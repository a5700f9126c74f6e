import type { KindName, RecordOf } from '../plan/kinds.ts'
import { inOrder, type Records } from '../plan/records.ts'

/** A new record of a kind with sensible beginnings, or a sentence that says what must be there first. */
export function freshRecord<K extends KindName>(records: Records, kind: K, id: string): RecordOf[K] | string {
  return makers[kind](records, id)
}

const makers: { [K in KindName]: (records: Records, id: string) => RecordOf[K] | string } = {
  tally: (_, id) => ({ id, name: 'New tally', kind: 'collectible', start: 0, min: 0, max: null, resets: 'never', saved: true }),
  curve: (_, id) => ({
    id, name: 'New curve', firstLevel: 1, maxLevel: 20, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1.15, add: 0 },
    rounding: 'nearest', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard',
  }),
  character(records, id) {
    const tally = inOrder(records, 'tally').find((row) => row.kind === 'experience')
    const curve = inOrder(records, 'curve')[0]
    if (!tally || !curve) return `A character needs ${tally ? 'a curve' : 'a tally of kind experience'} first.`
    return { id, name: 'New character', experience: tally.id, curve: curve.id, startLevel: null, joins: null, cap: null, stats: [], forms: [], rewards: [] }
  },
  pattern: (_, id) => ({ id, name: 'New pattern', kind: 'event' }),
  place: (_, id) => ({ id, name: 'New place', kind: 'area', goal: false, minutes: 0 }),
  passage(records, id) {
    const [from, to] = inOrder(records, 'place')
    if (!from || !to) return 'A passage needs two places first.'
    return { id, from: from.id, to: to.id, twoWay: true }
  },
  source: (_, id) => ({ id, name: 'New source', kind: 'event', role: 'main', count: 1, yields: [], takes: [], requires: '', respawns: false, minutes: 0, caps: [] }),
  gate: (_, id) => ({
    id, name: 'New gate', kind: 'door', role: 'main', guards: null, requires: '', costs: [], stays: 'open', due: 'stop', yields: [], caps: [], lockedText: '', minutes: 0,
  }),
  route: (records, id) => ({ id, name: 'New route', stops: records.head.start && inOrder(records, 'place').some((p) => p.id === records.head.start) ? [records.head.start] : [] }),
  profile: (_, id) => ({ id, name: 'New kind of player', main: 1, side: 0.5, buys: 'all', retries: 0 }),
  walk: (_, id) => ({ id, name: 'New walk', from: null, steps: [] }),
}
