import type { Records } from '../plan/records.ts'
import { addPlaceAfter } from './add-place.ts'
import type { Diff } from './diff.ts'
import { addRecord, freeId } from './edits.ts'
import { slugFrom } from './slug.ts'
import { Steps } from './steps.ts'

/** What the first level is made of: the XP's and the character's name, and the growth of the curve. */
export interface FirstLevel {
  tally: string
  character: string
  base: number
  factor: number
  add: number
  levels: number
}

interface Keys {
  tally: string
  curve: string
  character: string
  place: string
  passage: string
}

/** The beginning of an empty plan as one step: an experience tally, a curve, a character, and the first place. */
export function firstSteps(records: Records, level: FirstLevel | null, place: string, keys: Keys, routeKey: string | null): Diff {
  const steps = new Steps(records)
  if (level) {
    const tally = freeId(steps.records, 'tally', level.tally)
    steps.add(addRecord(steps.records, 'tally', keys.tally, { id: tally, name: level.tally.trim(), kind: 'experience', start: 0, min: 0, max: null, resets: 'never', saved: true }))
    const curve = freeId(steps.records, 'curve', `${level.character} level`)
    const rule = { kind: 'growth' as const, base: level.base, factor: level.factor, add: level.add }
    const options = { counts: 'step', rounding: 'nearest', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard' } as const
    steps.add(addRecord(steps.records, 'curve', keys.curve, { id: curve, name: `${level.character.trim()} level`, firstLevel: 1, maxLevel: level.levels, rule, ...options }))
    const character = freeId(steps.records, 'character', level.character)
    steps.add(addRecord(steps.records, 'character', keys.character, { id: character, name: level.character.trim(), experience: tally, curve, startLevel: null, joins: null, cap: null, stats: [], forms: [], rewards: [] }))
  }
  steps.add(addPlaceAfter(steps.records, { id: slugFrom(place), name: place, kind: 'area', goal: false, minutes: 0 }, { place: keys.place, passage: keys.passage }, null, routeKey))
  return steps.as(level ? `begin with ${level.character.trim()} at ${place}` : `add ${place}`)
}
