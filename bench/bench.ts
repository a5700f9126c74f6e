/** `npm run bench`: what a check costs, as a ratio against the plain reading of the rules in the same run. */
import { checkRoute, defaultRouteOptions } from '../src/core/check/route/route-check.ts'
import { readPlanValue } from '../src/core/plan/file.ts'
import { compile } from '../src/core/rules/compile.ts'
import { samplePlan } from '../src/core/sample/sample-plan.ts'
import { playRoute } from '../src/core/testing/plain-reading.ts'

const sizes = [
  { name: 'S', places: 20, sources: 200, gates: 80 },
  { name: 'M', places: 200, sources: 2_000, gates: 800 },
]

function timed<T>(run: () => T): [T, number] {
  const started = performance.now()
  const result = run()
  return [result, performance.now() - started]
}

const rows = sizes.map(({ name, ...size }) => {
  const value = samplePlan({ ...size, seed: 1 })
  // Every yield at its least, so that one walk is the answer for both.
  const fixed = JSON.parse(JSON.stringify(value, (key, part: unknown) => (key === 'max' && part === 3 ? 1 : part))) as Record<string, unknown>
  const [read, readMs] = timed(() => readPlanValue(fixed))
  if (!read.ok) throw new Error(JSON.stringify(read.issues))
  const [{ game }, compileMs] = timed(() => compile(read.records))
  const profile = game.profiles.find((found) => found.id === 'straight')!
  const [, checkMs] = timed(() => checkRoute(game, game.routes[0]!, profile, { ...defaultRouteOptions, sums: false }))
  const [, plainMs] = timed(() => playRoute(fixed as never, 'main_line', 'straight'))
  return { plan: name, 'read ms': readMs, 'compile ms': compileMs, 'route check ms': checkMs, 'plain reading ms': plainMs, 'check / plain': checkMs / plainMs, 'heap MB': process.memoryUsage().heapUsed / 1e6 }
})
console.table(rows.map((row) => Object.fromEntries(Object.entries(row).map(([key, value]) => [key, typeof value === 'number' ? Math.round(value * 100) / 100 : value]))))
