import { labelOf } from '../../core/plan/label-of.ts'
export interface Choice {
  value: string
  text: string
}
export interface ChoiceGroup {
  label: string
  choices: readonly Choice[]
}

interface Named {
  id: string
  name?: string
}

/** Records by their names. `valueOf`: what stands for one; by default its id. */
export function choicesOf<T extends Named>(rows: readonly T[], valueOf: (row: T) => string = ({ id }) => id): Choice[] {
  return rows.map((row) => ({ value: valueOf(row), text: labelOf(row) }))
}

/** The same by id, with the one that is chosen though it is there no more. */
export function choicesWith(rows: readonly Named[], chosen: string | null): Choice[] {
  const isLost = chosen !== null && !rows.some(({ id }) => id === chosen)
  return [...(isLost ? [{ value: chosen, text: `${chosen} (does not exist)` }] : []), ...choicesOf(rows)]
}
