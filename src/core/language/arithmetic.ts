import { Decimal as AnyDecimal } from 'decimal.js'

/** What the operators need of a kind of number; requirements use plain numbers, curve formulas 34-digit decimals. */
export interface Arithmetic<T> {
  literal(text: string): T
  from(n: number): T
  add(a: T, b: T): T
  sub(a: T, b: T): T
  mul(a: T, b: T): T
  div(a: T, b: T): T
  pow(a: T, b: T): T
  floor(a: T): T
  ceil(a: T): T
  round(a: T): T
  abs(a: T): T
  sqrt(a: T): T
  log(a: T): T
  exp(a: T): T
  isZero(a: T): boolean
  isFinite(a: T): boolean
  /** −1, 0 or 1; numbers within 1e-9 of the larger (or of 1) count as equal. */
  compare(a: T, b: T): number
}

const tolerance = 1e-9

export function nearlyEqual(a: number, b: number): boolean {
  return Math.abs(a - b) < tolerance * Math.max(1, Math.abs(a), Math.abs(b))
}

/** The whole number below, where one that is equal within the tolerance counts as reached. */
function tolerantFloor(a: number): number {
  const near = Math.round(a)
  return nearlyEqual(a, near) ? near : Math.floor(a)
}

export const plainArithmetic: Arithmetic<number> = {
  literal: Number,
  from: (n) => n,
  add: (a, b) => a + b,
  sub: (a, b) => a - b,
  mul: (a, b) => a * b,
  div: (a, b) => a / b,
  pow: (a, b) => a ** b,
  floor: tolerantFloor,
  ceil: (a) => -tolerantFloor(-a),
  round: (a) => tolerantFloor(a + 0.5),
  abs: Math.abs,
  sqrt: Math.sqrt,
  log: Math.log,
  exp: Math.exp,
  isZero: (a) => nearlyEqual(a, 0),
  isFinite: Number.isFinite,
  compare: (a, b) => (nearlyEqual(a, b) ? 0 : a < b ? -1 : 1),
}

/** Decimals of 34 significant digits, half to even (docs/model.md 2). */
export const Decimal = AnyDecimal.clone({ precision: 34, rounding: AnyDecimal.ROUND_HALF_EVEN })
export type Decimal = AnyDecimal

export const decimalArithmetic: Arithmetic<Decimal> = {
  literal: (text) => new Decimal(text),
  from: (n) => new Decimal(n),
  add: (a, b) => a.plus(b),
  sub: (a, b) => a.minus(b),
  mul: (a, b) => a.times(b),
  div: (a, b) => a.div(b),
  pow: (a, b) => a.pow(b),
  floor: (a) => a.floor(),
  ceil: (a) => a.ceil(),
  round: (a) => a.toDecimalPlaces(0, AnyDecimal.ROUND_HALF_CEIL),
  abs: (a) => a.abs(),
  sqrt: (a) => a.sqrt(),
  log: (a) => a.ln(),
  exp: (a) => a.exp(),
  isZero: (a) => a.abs().lt(tolerance),
  isFinite: (a) => a.isFinite(),
  compare: (a, b) => {
    const larger = AnyDecimal.max(1, a.abs(), b.abs())
    return a.minus(b).abs().lt(larger.times(tolerance)) ? 0 : a.comparedTo(b)
  },
}
