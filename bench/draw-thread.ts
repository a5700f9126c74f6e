/** A thread that draws walks of a made-up plan: what the page has a worker for. */
import { parentPort, workerData } from 'node:worker_threads'
import { defaultRouteOptions, drawWalks, type DrawOrder } from '../src/core/check/route/route-check.ts'
import { readPlanValue } from '../src/core/plan/file.ts'
import { compile } from '../src/core/rules/compile.ts'
import { samplePlan, type SampleSize } from '../src/core/sample/sample-plan.ts'

const { size, route, profile } = workerData as { size: SampleSize; route: string; profile: string }
const read = readPlanValue(samplePlan(size))
if (!read.ok) throw new Error('the sample is no plan')
const { game } = compile(read.records)
const [along, player] = [game.routes.find(({ id }) => id === route)!, game.profiles.find(({ id }) => id === profile)!]
parentPort!.on('message', (order: DrawOrder) => parentPort!.postMessage(drawWalks(game, along, player, defaultRouteOptions, order)))
parentPort!.postMessage('ready')
