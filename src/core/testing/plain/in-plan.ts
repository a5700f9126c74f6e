/** Finds things in a plan's file, by their ids, each time anew. */
import type { Decimal } from '../../language/arithmetic.ts'
import type { PlanFile } from '../../plan/file.ts'
import type { RecordOf } from '../../plan/kinds.ts'
import { wholeSource, type WholeSource } from '../../plan/source.ts'
import { curveValues } from '../../rules/curve-values.ts'

export type Gate = RecordOf['gate']
export type Character = RecordOf['character']
export type Passage = RecordOf['passage']

const lists = { tally: 'tallies', curve: 'curves', passage: 'passages', route: 'routes', profile: 'profiles' } as const

export function inPlan<K extends keyof typeof lists>(plan: PlanFile, kind: K, id: string): RecordOf[K] {
  return (plan[lists[kind]] as RecordOf[K][]).find((one) => (one as { id: string }).id === id)!
}

export function charactersOf(plan: PlanFile): Character[] {
  return plan.characters as Character[]
}

export function gatesOf(plan: PlanFile): Gate[] {
  return [...plan.places.flatMap(({ contents }) => contents.flatMap(({ gate }) => gate ?? [])), ...plan.anywhere]
}

/** A source with what comes from its pattern. */
export function whole(plan: PlanFile, source: RecordOf['source']): WholeSource {
  return wholeSource(source, (plan.patterns as RecordOf['pattern'][] | undefined)?.find(({ id }) => id === source.pattern))
}

/** Whether a passage leads from one place to another. */
export function joins({ from, to, twoWay }: Passage, start: string, end: string): boolean {
  return (from === start && to === end) || (twoWay && to === start && from === end)
}

/** Whether some passage does. */
export function areJoined(plan: PlanFile, start: string, end: string): boolean {
  return (plan.passages as Passage[]).some((passage) => joins(passage, start, end))
}

export function curveOf(plan: PlanFile, { curve }: Character): RecordOf['curve'] {
  return inPlan(plan, 'curve', curve)
}

/** Working curves out takes long, and they stay what they are. */
const values = new WeakMap<RecordOf['curve'], Decimal[]>()

/** The value at which a character's level gives way to the next. */
export function valueAt(plan: PlanFile, character: Character, level: number): Decimal {
  const curve = curveOf(plan, character)
  const known = values.get(curve) ?? (curveValues(curve).values as Decimal[])
  values.set(curve, known)
  return known[level - curve.firstLevel]!
}

export function startLevelOf(plan: PlanFile, character: Character): number {
  return character.startLevel ?? curveOf(plan, character).firstLevel
}
