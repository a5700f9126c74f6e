import { expose } from 'comlink'
import { config } from 'zod'
import type { RecordData } from '../../core/check/route/record.ts'
import { defaultRouteOptions, drawWalks, type DrawOrder } from '../../core/check/route/route-check.ts'
import type { PlainRecords } from '../../core/plan/records.ts'
import { compile } from '../../core/rules/compile.ts'
import type { Game } from '../../core/rules/game.ts'

// The page's content security policy allows no code made from strings.
config({ jitless: true })

let game: Game | null = null

/** Draws walks for a check that is made in another worker. */
const drawing = {
  load(records: PlainRecords): void {
    game = compile(records).game
  },

  draw(routeKey: string, profileKey: string, order: DrawOrder): RecordData {
    const route = game!.routes.find((found) => found.key === routeKey)!
    const profile = game!.profiles.find((found) => found.key === profileKey)!
    return drawWalks(game!, route, profile, defaultRouteOptions, order)
  },
}

export type DrawWorker = typeof drawing
expose(drawing)
