import type { Character, Stat } from '../plan/character.ts'
import type { Curve } from '../plan/curve.ts'
import { labelOf } from '../plan/label-of.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { Decimal } from '../language/arithmetic.ts'
import { rounded } from '../rules/curve-values.ts'

/** A stat at every level, from the first to the last (docs/model.md 2): each made from the one before, rounded. */
export function statValues(stat: Stat, curve: Pick<Curve, 'firstLevel' | 'maxLevel'>): number[] {
  const by = new Decimal(stat.by)
  let value = new Decimal(stat.start)
  const values = [value.toNumber()]
  for (let level = curve.firstLevel + 1; level <= curve.maxLevel; level++) {
    value = rounded(stat.growth === 'add' ? value.plus(by) : value.times(by), stat.rounding)
    values.push(value.toNumber())
  }
  return values
}

/** A character's stats at a level; the character by its index in the plan. */
export function statsAt(records: Records, c: number, level: number): { name: string; value: number }[] {
  const row = inOrder(records, 'character')[c]
  const curve = row && inOrder(records, 'curve').find((one) => one.id === row.curve)
  return row && curve ? row.stats.map((stat) => ({ name: labelOf(stat), value: statValues(stat, curve)[level - curve.firstLevel] ?? 0 })) : []
}

/** Levels that no form covers, or more than one; from and to included. */
export interface FormTrouble {
  kind: 'gap' | 'overlap' | 'beyond'
  from: number
  to: number
}

export function formTroubles({ forms }: Pick<Character, 'forms'>, { firstLevel, maxLevel }: Pick<Curve, 'firstLevel' | 'maxLevel'>): FormTrouble[] {
  if (forms.length === 0) return []
  const troubles: FormTrouble[] = []
  for (let level = firstLevel; level <= maxLevel; level++) {
    const covering = forms.filter((form) => form.from <= level && level <= form.to).length
    if (covering === 1) continue
    const kind = covering === 0 ? 'gap' : 'overlap'
    const last = troubles.at(-1)
    if (last?.kind === kind && last.to === level - 1) last.to = level
    else troubles.push({ kind, from: level, to: level })
  }
  const end = Math.max(...forms.map((form) => form.to))
  return end > maxLevel ? [...troubles, { kind: 'beyond', from: maxLevel + 1, to: end }] : troubles
}

/**
 * Forms without gaps, overlaps and levels beyond the top: in the order in which they begin, each lasts until the next one does, the
 * first from the first level on, the last to the top. One that would have no level of its own is left out.
 */
export function mendedForms({ forms }: Pick<Character, 'forms'>, { firstLevel, maxLevel }: Pick<Curve, 'firstLevel' | 'maxLevel'>): Character['forms'] {
  const inLevels = [...forms].sort((a, b) => a.from - b.from || a.to - b.to).filter((form, i, all) => form.from <= maxLevel && all[i + 1]?.from !== form.from)
  return inLevels.map((form, i) => ({ ...form, from: i === 0 ? firstLevel : form.from, to: (inLevels[i + 1]?.from ?? maxLevel + 1) - 1 }))
}
