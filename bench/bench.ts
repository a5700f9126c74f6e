/**
 * `npm run bench`: what a check costs on made-up plans, beside the plain reading of the rules in the same run, and what a designer
 * waits for in the browser. One plan: `npm run bench -- M`; without the browser: `npm run bench -- M --no-browser`.
 * M: 200 places, 2,000 sources, 800 gates. L: 2,000, 50,000, 10,000.
 */
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { apply } from '../src/core/change/diff.ts'
import { setFields } from '../src/core/change/edits.ts'
import { findingsOf, playedOf } from '../src/core/check/check.ts'
import { finished } from '../src/core/check/finished.ts'
import { defaultBound } from '../src/core/check/lockout/bound.ts'
import { checkLockouts } from '../src/core/check/lockout/lockout-check.ts'
import { Space } from '../src/core/check/lockout/space.ts'
import { StateGraph } from '../src/core/check/lockout/state-graph.ts'
import { checkReach } from '../src/core/check/reach/reach-check.ts'
import { keptCheckInSteps, type KeptCheck } from '../src/core/check/route/kept-check.ts'
import { checkRoute, defaultRouteOptions, drawWalks, type DrawOrder } from '../src/core/check/route/route-check.ts'
import type { Records } from '../src/core/plan/records.ts'
import { compile, type Compiled } from '../src/core/rules/compile.ts'
import type { Game } from '../src/core/rules/game.ts'
import { recompile } from '../src/core/rules/recompile.ts'
import { walk } from '../src/core/testing/plain/walk.ts'
import { middleFall } from '../src/core/testing/plain/ways.ts'
import type { BrowserFigure } from './browser.ts'
import { recordsOf, sampleOf, sizes, type SizeName } from './sizes.ts'
import { stolenTime } from './stolen-time.ts'

/** Walks drawn in each plan: 10,000 of L would take minutes, and take as long each as fewer do. */
const walksOf = { S: 10_000, M: 10_000, L: 100 }
/** How often a check is made again: code that has run before runs faster, as in an application that is in use. */
const timesAgain = { S: 20, M: 20, L: 4 }
/** The same of walks, which take longer. */
const mostDrawn = 4
/** A share of the machine's time that may go to others and a figure still be told as it is; and how often those in the browser are measured at most. */
const undisturbed = 0.05
const mostRounds = 3

function timed<T>(run: () => T): [T, number] {
  const started = performance.now()
  const result = run()
  return [result, performance.now() - started]
}

interface Figure {
  plan: string
  what: string
  ms: number
  /** Per unit of what is named: a walk, a state. */
  each?: string
}

interface Row extends Figure {
  /** The share of the machine's time that others took meanwhile. */
  stolen: number
}

const rows: Row[] = []
const stolenSince = stolenTime()
const percent = (share: number) => `${Math.round(100 * share)} %`

/** Each figure is told as it comes, and all of them once more in one table. */
function tell(figure: Figure): void {
  rows.push(printed(figure))
}

function printed(figure: Figure): Row {
  const stolen = stolenSince()
  const { plan, what, ms, each = '' } = figure
  const others = stolen > undisturbed ? `; ${percent(stolen)} of the time went to others` : ''
  console.error(`${plan}  ${what}: ${Number.isNaN(ms) ? '' : `${ms.toFixed(1)} ms`} ${each}${others}`)
  return { ...figure, stolen }
}

function add<T>(plan: string, what: string, run: () => T, each?: (result: T, ms: number) => string): T {
  const [result, ms] = timed(run)
  tell({ plan, what, ms, ...(each && { each: each(result, ms) }) })
  return result
}

/** Every yield at its least and one kind of player without chance, so that one walk is the answer for both. */
function withoutChance(value: unknown): Record<string, unknown> {
  return JSON.parse(JSON.stringify(value, (key, part: unknown) => (key === 'max' && part === 3 ? 1 : part))) as Record<string, unknown>
}

function benchAgainstPlainReading(name: SizeName): void {
  const fixed = withoutChance(sampleOf(name))
  const { game } = compile(recordsOf(fixed))
  const profile = game.profiles.find(({ id }) => id === 'straight')!
  const ms = rows.length
  add(name, 'plain reading of the rules, one walk (baseline)', () => walk(fixed as never, 'main_line', 'straight', middleFall))
  add(name, 'route check of the same walk, all gates', () => checkRoute(game, game.routes[0]!, profile))
  rows[ms + 1]!.each = `${(rows[ms + 1]!.ms / rows[ms]!.ms).toPrecision(2)} of the baseline`
}

/** Runs one step of a full check, under its name. */
type Step = <T>(what: string, run: () => T, each?: (result: T) => string) => T

/** A full check without lock-outs: compiled, each kind of player on the route, reach, findings. */
function fullCheck(records: Records, step: Step): Compiled {
  const compiled = step('compile', () => compile(records))
  const { game } = compiled
  const route = game.routes[0]!
  const drawnOf = ({ result: { gates } }: KeptCheck) => `${gates.filter(({ exact }) => !exact).length} of ${gates.length} gates drawn`
  const profiles = game.profiles.map((profile) => step(`route check, ${profile.id}`, () => finished(keptCheckInSteps(game, route, profile, { ...defaultRouteOptions, rhythm: true }, null)), drawnOf))
  const reach = step('reach', () => checkReach(game))
  const checked = { routes: [{ route: route.id, profiles: profiles.map(({ result }) => result) }], played: profiles.flatMap((kept) => playedOf(records.head.settings, route, kept)) }
  step('findings', () => findingsOf(records, compiled, checked, reach, null))
  return compiled
}

/** Read as from a file, of which nothing is kept. */
function benchReading(name: SizeName): Records {
  const value = sampleOf(name)
  return add(name, 'read the plan file', () => recordsOf(value))
}

async function benchCheck(name: SizeName): Promise<void> {
  const records = benchReading(name)
  const before = rows.length
  const compiled = fullCheck(records, (what, run, each) => add(name, what, run, each))
  tell({ plan: name, what: 'full check without lock-outs', ms: rows.slice(before).reduce((sum, { ms }) => sum + ms, 0), each: 'for the first time' })
  tell({ plan: name, what: 'memory after that', ms: NaN, each: `${Math.round(process.memoryUsage().heapUsed / 1e6)} MB heap, ${Math.round(process.memoryUsage().rss / 1e6)} MB in all` })
  const again = Array.from({ length: timesAgain[name] }, () => timed(() => fullCheck(records, (_, run) => run()))[1])
  tell({ plan: name, what: 'full check without lock-outs, again', ms: Math.min(...again), each: again.length > 1 ? `the least of ${again.length}` : '' })
  const { game } = compiled
  if (name !== 'L') benchShort(name)
  await benchThreads(name, game)
  for (const profile of ['straight', 'usual']) benchEdits(name, records, compiled, profile)
  benchLockouts(name, game)
}

const raised = (requires: string, by: number) => requires.replace(/level >= (\d+)/g, (_, n) => `level >= ${Number(n) + by}`)

/** Many gates that are short, as after a curve was made steeper: what would open each is looked for among all sources. In L that takes minutes. */
function benchShort(name: SizeName): void {
  const steeper = JSON.parse(JSON.stringify(sampleOf(name)), (key, part: unknown) => (key === 'requires' && typeof part === 'string' ? raised(part, 30) : part)) as unknown
  const { game } = compile(recordsOf(steeper))
  const profile = game.profiles.find(({ id }) => id === 'straight')!
  const count = (all: readonly { verdict: string }[]) => `${all.filter(({ verdict }) => verdict === 'short').length} of ${all.length} gates`
  const checked = (debts: boolean) => () => checkRoute(game, game.routes[0]!, profile, { ...defaultRouteOptions, debts })
  add(name, 'route check, straight, where many gates are short', checked(true), ({ gates }) => count(gates))
  add(name, 'the same for a page, which asks what would open one gate', checked(false), ({ gates }) => count(gates))
}

/** What is worked out again after an edit: of a gate's threshold, and of a source's count, all along the plan. */
function benchEdits(plan: string, records: Records, compiled: Compiled, of: string): void {
  const { game } = compiled
  const [route, profile] = [game.routes[0]!, game.profiles.find(({ id }) => id === of)!]
  const first = finished(keptCheckInSteps(game, route, profile, defaultRouteOptions, null))
  const gates = [...records.gate.values()].filter(({ requires, stays }) => stays === 'open' && /level >= \d+/.test(requires))
  const sources = [...records.source.values()]
  const edits = {
    'a threshold': (records: Records, share: number) => {
      const { key, requires } = gates[Math.floor(share * gates.length)]!
      return setFields(records, 'gate', key, { requires: raised(requires, 1) } as never, 'a threshold')
    },
    'a count': (records: Records, share: number) => {
      const { key, count } = sources[Math.floor(share * sources.length)]!
      return setFields(records, 'source', key, { count: count + 1 } as never, 'a count')
    },
  }
  for (const [what, edit] of Object.entries(edits)) {
    const took = Array.from({ length: 12 }, (_, i) => {
      const diff = edit(records, i / 12)
      return timed(() => {
        const again = recompile(compiled, apply(records, diff), diff.changes)!
        finished(keptCheckInSteps(again.compiled.game, route, profile, defaultRouteOptions, { kept: first, touched: again.touched }))
      })[1]
    }).sort((a, b) => a - b)
    tell({ plan, what: `verdicts again after ${what} has changed, ${of}`, ms: took[6]!, each: `the median of 12; the longest ${took[11]!.toFixed(0)} ms` })
  }
}

/** All of a route, as if nothing of it could be worked out. */
function wholeOf(game: Game, route: Game['routes'][number]): Omit<DrawOrder, 'first' | 'count'> {
  const all = (list: readonly unknown[]) => new Set(list.keys())
  return { gates: all(game.gates), tallies: all(game.tallies), characters: all(game.characters), until: route.stops.length - 1 }
}

/** Walks of a whole route, drawn, a half of them in another thread, which is there already as it is in the page. */
async function benchThreads(plan: SizeName, game: Game): Promise<void> {
  const [route, profile, walks] = [game.routes[0]!, game.profiles.find(({ id }) => id === 'usual')!, walksOf[plan]]
  const whole = wholeOf(game, route)
  const thread = new Worker(new URL(/* @vite-ignore */ './draw-thread.js', import.meta.url), { workerData: { plan, route: route.id, profile: profile.id } })
  const answer = () => once(thread, 'message')
  await answer()
  const half = Math.ceil(walks / 2)
  const draw = (first: number, count: number) => drawWalks(game, route, profile, defaultRouteOptions, { ...whole, first, count })
  const times = Math.min(mostDrawn, timesAgain[plan])
  const alone = Math.min(...Array.from({ length: times }, () => timed(() => draw(0, walks))[1]))
  tell({ plan, what: `${walks} walks drawn on one thread`, ms: alone, ...(times > 1 && { each: `the least of ${times}` }) })
  const both: number[] = []
  for (let i = 0; i < times; i++) {
    const started = performance.now()
    const other = answer()
    thread.postMessage({ ...whole, first: half, count: walks - half })
    draw(0, half)
    await other
    both.push(performance.now() - started)
  }
  const ms = Math.min(...both)
  tell({ plan, what: `${walks} walks drawn on two threads`, ms, each: `${(ms / alone).toFixed(2)} of one thread; for the first time ${both[0]!.toFixed(0)} ms` })
  await thread.terminate()
}

function benchLockouts(plan: string, game: Game): void {
  add(plan, 'lock-outs', () => checkLockouts(game, { ...defaultBound, now: () => performance.now() }), ({ stuck, forcedGrind }) => `${stuck.result}, ${forcedGrind.result}`)
}

/** How fast states are looked at in the plan that comes with the application, which has more of them than the bound: the best of some runs. */
function benchStates(): void {
  const { game } = compile(recordsOf(JSON.parse(readFileSync(new URL('../demo/lamplight_post.tundrift.json', import.meta.url), 'utf8'))))
  const run = () => {
    const [graph, ms] = timed(() => new StateGraph(new Space(game), { ...defaultBound, states: 600_000 }, false).grow(600_000))
    return { ms, each: `${Math.round(graph.size / ms)},000 states a second` }
  }
  const best = [0, 1, 2].map(run).reduce((a, b) => (b.ms < a.ms ? b : a))
  tell({ plan: 'demo', what: 'lock-outs, 600,000 states without repeats', ...best })
}

/** A shop with 25 things to buy, each of its own price, and a door that costs something too. */
function benchShop(): void {
  const prices = Array.from({ length: 25 }, (_, i) => 3 + ((i * 7) % 11))
  const buys = prices.map((amount, i) => ({ gate: { id: `buy_${i}`, name: 'Buy', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount }] } }))
  const all = prices.reduce((sum, price) => sum + price, 0)
  const { game } = compile(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'shop', name: 'Shop', start: 'post', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
    places: [
      { id: 'post', name: 'Post', kind: 'hub', contents: [{ source: { id: 'round', name: 'Round', kind: 'quest', count: 1, yields: [{ tally: 'stamps', min: all, max: all }] } }, ...buys, { gate: { id: 'door', name: 'Door', kind: 'door', guards: { passage: 'way' }, costs: [{ tally: 'stamps', amount: 5 }] } }] },
      { id: 'shore', name: 'Shore', kind: 'area', goal: true },
    ],
    passages: [{ id: 'way', from: 'post', to: 'shore' }],
  }))
  add('shop', 'lock-outs of 25 purchases, decided', () => checkLockouts(game), ({ stuck }) => stuck.result)
}

/** What a designer waits for, measured again while others take much of the machine's time: of each figure what was least disturbed counts. */
async function benchInBrowser(plan: SizeName): Promise<void> {
  const least = new Map<string, Row>()
  const isDisturbed = () => [...least.values()].some(({ stolen }) => stolen > undisturbed)
  for (let round = 0; round === 0 || (round < mostRounds && isDisturbed()); round++) {
    for await (const row of measuredInBrowser(plan)) if (row.stolen < (least.get(row.what)?.stolen ?? Infinity)) least.set(row.what, row)
  }
  rows.push(...least.values())
}

/** Once, by a process of its own. */
async function* measuredInBrowser(plan: SizeName): AsyncGenerator<Row> {
  const measuring = spawn(process.execPath, [fileURLToPath(new URL(/* @vite-ignore */ './bench-browser.js', import.meta.url)), plan], { stdio: ['ignore', 'pipe', 'inherit'] })
  for await (const line of createInterface(measuring.stdout)) yield printed({ plan, ...(JSON.parse(line) as BrowserFigure) })
}

const words = process.argv.slice(2)
const wanted = (Object.keys(sizes) as SizeName[]).filter((name) => words.includes(name))
const hasBrowser = !words.includes('--no-browser') && existsSync('/usr/bin/chromium')
// In the page lock-outs are searched by a worker that does nothing else: here they come first.
benchStates()
benchShop()
for (const name of wanted.length ? wanted : (Object.keys(sizes) as SizeName[])) {
  await benchCheck(name)
  // The plain reading takes far more memory, which would be counted as the check's.
  benchAgainstPlainReading(name)
  if (hasBrowser) await benchInBrowser(name)
}
console.table(rows.map(({ plan, what, ms, each, stolen }) => ({ plan, what, ms: Number.isNaN(ms) ? '' : Math.round(ms * 10) / 10, 'in detail': each ?? '', 'to others': percent(stolen) })))
