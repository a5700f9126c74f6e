import { readdirSync, readFileSync } from 'node:fs'
import { assert } from 'chai'
import fc from 'fast-check'
import { readPlanValue, toFile, type PlanFile } from '../plan/file.ts'
import type { Records } from '../plan/records.ts'
import { compile } from '../rules/compile.ts'
import { differences, type Case } from '../testing/compare-case.ts'
import { plainCheck, type PlainComparison, type PlainGate } from '../testing/plain/plain-check.ts'
import { anySample } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { anyWorld } from '../testing/worlds.ts'
import { checkRoute, defaultRouteOptions, type DrawOrder } from './route/route-check.ts'
import type { ComparisonResult, GateResult, Quantiles, StopResult } from './result.ts'

const folder = new URL('../testing/cases/', import.meta.url)
/** Ways in which chance can fall that are gone through; a plan in which it can fall in more is left out. */
const mostWays = 400

function fiveIn({ min, q05, median, q95, max }: Quantiles): number[] {
  return [min, q05, median, q95, max]
}

/** All of it that the plain reading gives, too. */
function ofComparison({ need, has, margin, holds, slack }: ComparisonResult) {
  return { need, has: has && fiveIn(has), margin, holds, slack }
}

function plainly({ has, need, holds, slack }: PlainComparison) {
  return { need, has: fiveOf(has), margin: has.quantile(0.5) - need, holds, slack }
}

function fiveOf(spread: PlainComparison['has']): number[] {
  return [spread.min, spread.quantile(0.05), spread.quantile(0.5), spread.quantile(0.95), spread.max]
}

function same(found: unknown, plain: unknown, about: string): void {
  assert.deepEqual(differences(plain, found, about), [])
}

function compareGates(found: GateResult, plain: PlainGate, about: string): void {
  same(found.due?.stop ?? null, plain.due, `${about}, due`)
  if (plain.verdict === 'off_route') return assert.equal(found.verdict, 'off_route', about)
  same([found.met?.stop ?? null, found.p, found.opened, found.ready], [plain.met, plain.p, plain.opened, plain.ready], `${about}: met, p, opened, ready`)
  if (plain.verdict !== null) assert.equal(found.verdict, plain.verdict, about)
  assert.lengthOf(found.comparisons, plain.comparisons.length, about)
  found.comparisons.forEach((comparison, i) => {
    const one = ofComparison(comparison)
    // What moving the number of an equation or its opposite by would leave is not defined.
    const free = /[^<>]=|==|!=/.test(comparison.text) ? { slack: null } : {}
    same({ ...one, ...free }, { ...plainly(plain.comparisons[i]!), ...free }, `${about}, ${comparison.text}`)
  })
  if (plain.verdict !== 'short') return
  const alone = found.debt.filter(({ mends }) => mends === undefined)
  const sorted = (list: readonly { source: string; minutes: number; untaken: number; repeats: number }[]) => list.map(({ source, untaken, repeats, minutes }) => ({ source, untaken, repeats, minutes })).sort((a, b) => (a.source < b.source ? -1 : 1))
  same(sorted(alone), sorted(plain.debt!), `${about}, debt`)
}

function compareStops(found: StopResult, plain: { tallies: Record<string, PlainComparison['has']>; levels: Record<string, PlainComparison['has']> }, isDrawn: (id: string) => boolean, about: string): void {
  for (const kind of ['tallies', 'levels'] as const) {
    for (const [id, has] of Object.entries(found[kind])) if (!isDrawn(id)) same(fiveIn(has), fiveOf(plain[kind][id]!), `${about}, ${id}`)
  }
}

/** Compares all routes and kinds of player; how many of them the plain reading could tell of. */
function compare(records: Records, about: string): number {
  const plan = toFile(records)
  const { game } = compile(records)
  let told = 0
  for (const route of game.routes) for (const profile of game.profiles) {
    const plain = plainCheck(plan, route.id, profile.id, mostWays)
    if (!plain) continue
    told++
    const at = `${about}, ${route.id}, ${profile.id}`
    const drawn = { ids: new Set<string>(), until: -1 }
    const beside = ({ tallies, characters, until }: DrawOrder) => {
      drawn.ids = new Set([...[...tallies].map((t) => game.tallies[t]!.id), ...[...characters].map((c) => game.characters[c]!.id)])
      drawn.until = until
      return () => 'failed' as const
    }
    const { gates, stops } = checkRoute(game, route, profile, { ...defaultRouteOptions, beside })
    plain.gates.forEach((gate) => {
      const found = gates.find(({ gate: id }) => id === gate.gate)!
      if (found.exact) compareGates(found, gate, `${at}, ${gate.gate}`)
    })
    stops.forEach((stop, i) => compareStops(stop, plain.stops[i]!, (id) => i <= drawn.until && drawn.ids.has(id), `${at}, stop ${i}`))
  }
  return told
}

/** The same plan with every yield at its least, so that little is left to chance. */
function fixed(plan: PlanFile): PlanFile {
  const copy = JSON.parse(JSON.stringify(plan)) as PlanFile
  const settle = (yields: { min: number; max: number }[] | undefined) => yields?.forEach((y) => (y.max = y.min))
  for (const place of copy.places) for (const item of place.contents) settle(item.source?.yields ?? item.gate?.yields)
  return copy
}

describe('the route check and its plain reading', () => {
  it('agree on worlds in which all rules mix, to the last digit', () => {
    let told = 0
    fc.assert(fc.property(anyWorld, (records) => void (told += compare(records, 'world'))), { numRuns: runs(150) })
    assert.isAbove(told, 300)
  })

  it('agree on made-up plans as large as people begin with', () => {
    fc.assert(fc.property(anySample, (sample) => {
      const read = readPlanValue(fixed(toFile(sample)))
      if (!read.ok) throw new Error('a sample with fixed yields is no plan')
      compare(read.records, 'sample')
    }), { numRuns: runs(30) })
  })

  it('agree on the plans with known answers', () => {
    for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
      const read = readPlanValue((JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case).plan)
      if (read.ok && compile(read.records).issues.length === 0) compare(read.records, file)
    }
  })
})
