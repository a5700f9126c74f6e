import { Decimal as AnyDecimal } from 'decimal.js'
import { Decimal, decimalArithmetic } from '../language/arithmetic.ts'
import { prepare } from '../language/evaluate.ts'
import { LanguageError } from '../language/language-error.ts'
import { formulaVocabulary } from '../language/names.ts'
import { readText } from '../language/requirement.ts'
import type { Curve, Rounding } from '../plan/curve.ts'
import { remembered } from '../plan/remembered.ts'

/** A fault of a curve at a level; `column` where a formula is at fault. */
export interface CurveFault {
  code: 'limits' | 'length' | 'formula' | 'value'
  level: number
  message: string
  column?: number
}

export interface CurveValues {
  /** The value of each level from the first to the one before the last, as far as they could be made. */
  values: Decimal[]
  faults: CurveFault[]
}

/** How each rounding is done; `nearest` is half up. */
const roundingModes = {
  nearest: AnyDecimal.ROUND_HALF_CEIL,
  nearest_even: AnyDecimal.ROUND_HALF_EVEN,
  down: AnyDecimal.ROUND_FLOOR,
  up: AnyDecimal.ROUND_CEIL,
  none: null,
} as const satisfies Record<Rounding, AnyDecimal.Rounding | null>

export function rounded(value: Decimal, rounding: Rounding): Decimal {
  const mode = roundingModes[rounding]
  return mode === null ? value : value.toDecimalPlaces(0, mode)
}

type Make = (level: number, before: Decimal) => Decimal

/** value(L) of a curve for every level below its last, in 34-digit decimals, and what is wrong with them (docs/model.md 2). */
export function curveValues(curve: Curve): CurveValues {
  return remembered(made, curve, () => makeValues(curve))
}

/** Records are never changed but replaced, so that a curve's values are made once, whoever asks for them. */
const made = new WeakMap<Curve, CurveValues>()

function makeValues(curve: Curve): CurveValues {
  const { firstLevel, maxLevel } = curve
  if (firstLevel >= maxLevel) {
    return { values: [], faults: [{ code: 'limits', level: firstLevel, message: `the first level ${firstLevel} is not below the last level ${maxLevel}` }] }
  }
  const maker = makerOf(curve)
  if ('fault' in maker) return { values: [], faults: [maker.fault] }
  return fill(curve, maker.make)
}

function fill(curve: Curve, make: Make): CurveValues {
  const values: Decimal[] = []
  const faults: CurveFault[] = []
  const length = lengthFault(curve)
  if (length) faults.push(length)
  let before = new Decimal(0)
  for (let level = curve.firstLevel; level < curve.maxLevel; level++) {
    try {
      const value = rounded(make(level, before), curve.rounding)
      const message = valueFault(curve, level, value, before)
      if (message) faults.push({ code: 'value', level, message })
      values.push(value)
      before = value
    } catch (error) {
      if (!(error instanceof LanguageError)) throw error
      faults.push({ code: 'formula', level, message: error.message, column: error.column })
      break
    }
    if (!before.isFinite()) break
  }
  return { values, faults }
}

function valueFault(curve: Curve, level: number, value: Decimal, before: Decimal): string | null {
  if (!value.isFinite()) return 'there is no finite value'
  if (value.lte(0)) return `${value.toString()} is not above 0`
  if (curve.counts === 'total' && level > curve.firstLevel && value.lte(before)) {
    return `${value.toString()} is not above ${before.toString()}, the total of the level before`
  }
  return null
}

function lengthFault({ rule, firstLevel, maxLevel }: Curve): CurveFault | null {
  if (rule.kind !== 'table' || rule.values.length === maxLevel - firstLevel) return null
  const need = maxLevel - firstLevel
  return {
    code: 'length',
    level: Math.min(firstLevel + rule.values.length, maxLevel),
    message: `the table has ${rule.values.length} values where levels ${firstLevel} to ${maxLevel} take ${need}, one for each level but the last`,
  }
}

function makerOf(curve: Curve): { make: Make } | { fault: CurveFault } {
  const { rule, firstLevel } = curve
  switch (rule.kind) {
    case 'table':
      return { make: (level) => new Decimal(rule.values[level - firstLevel] ?? Number.NaN) }
    case 'growth': {
      const [base, factor, add] = [rule.base, rule.factor, rule.add].map((n) => new Decimal(n)) as [Decimal, Decimal, Decimal]
      return { make: (level, before) => (level === firstLevel ? base : before.times(factor).plus(add)) }
    }
    case 'formula':
      return formulaMaker(rule.text, firstLevel)
  }
}

interface FormulaContext {
  L: Decimal
  prev: Decimal
  first: Decimal
}

function formulaMaker(text: string, firstLevel: number): { make: Make } | { fault: CurveFault } {
  const { node, errors } = readText(text, formulaVocabulary)
  const error = errors[0]
  if (error) return { fault: { code: 'formula', level: firstLevel, message: error.message, column: error.column } }
  if (!node) return { fault: { code: 'formula', level: firstLevel, message: 'the formula is empty' } }
  const evaluate = prepare<FormulaContext, Decimal>(node, decimalArithmetic, (name) => (context) => context[name.name as keyof FormulaContext])
  const first = new Decimal(firstLevel)
  return { make: (level, prev) => evaluate({ L: new Decimal(level), prev, first }) }
}
