/** A thread that draws walks of a made-up plan: what the page has a worker for. */
import { parentPort, workerData } from 'node:worker_threads'
import { defaultRouteOptions, drawWalks, type DrawOrder } from '../src/core/check/route/route-check.ts'
import { compile } from '../src/core/rules/compile.ts'
import { recordsOf, sampleOf, type SizeName } from './sizes.ts'

const { plan, route, profile } = workerData as { plan: SizeName; route: string; profile: string }
const { game } = compile(recordsOf(sampleOf(plan)))
const [along, player] = [game.routes.find(({ id }) => id === route)!, game.profiles.find(({ id }) => id === profile)!]
parentPort!.on('message', (order: DrawOrder) => parentPort!.postMessage(drawWalks(game, along, player, defaultRouteOptions, order)))
parentPort!.postMessage('ready')
