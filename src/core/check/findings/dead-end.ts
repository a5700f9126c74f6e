import { labelOf } from '../../plan/label-of.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** dead-end: a place that can be entered, is no goal, and has no way out. */
export const deadEnd: FindingRule = ({ game }) =>
  game.places.filter((place) => place.waysIn.length > 0 && place.ways.length === 0 && !place.goal).map((place) => finding('dead-end', 'fault', 'place', place.id, `No way leads out of ${labelOf(place)}, neither on nor back, and it is no goal.`))
