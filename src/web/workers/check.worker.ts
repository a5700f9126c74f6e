import { expose } from 'comlink'
import { config } from 'zod'
import { apply, type Diff } from '../../core/change/diff.ts'
import { likelyEdits } from '../../core/change/likely-edits.ts'
import { recordsOf, type PlanDocument } from '../../core/contract/api.ts'
import { findingsInSteps, playedOf, type CheckedRoutes } from '../../core/check/check.ts'
import { reachInSteps } from '../../core/check/reach/reach-check.ts'
import { verdictsAlone, type Finding, type ProfileResult, type RouteVerdicts, type Verdict } from '../../core/check/result.ts'
import { explainInSteps, readable, type ReadExplanation } from '../../core/check/route/explain.ts'
import { keptCheckInSteps, type CheckBefore, type KeptCheck } from '../../core/check/route/kept-check.ts'
import { nearLookInSteps, type NearLook } from '../../core/check/route/near-look.ts'
import { defaultRouteOptions, type DrawOrder, type RouteCheck, type RouteCheckOptions } from '../../core/check/route/route-check.ts'
import type { RouteTrace } from '../../core/check/route/trace.ts'
import { checkWalks, type WalkResult } from '../../core/play/check-walks.ts'
import { plainRecords, type PlainRecords, type Records } from '../../core/plan/records.ts'
import type { Game, GameProfile, GameRoute } from '../../core/rules/game.ts'
import { updateBetween, type RouteUpdate, type RouteView } from '../../core/view/route-update.ts'
import { turnsBetween, type Turn } from '../../core/view/turns.ts'
import { compile, type Compiled } from '../../core/rules/compile.ts'
import { recompile, type Recompiled, type Touched } from '../../core/rules/recompile.ts'
import { inTurns } from '../in-turns.ts'
import { DrawBeside } from './draw-beside.ts'
import { KeptChecks } from './kept-checks.ts'
import type { Look } from './look.ts'
import { heard, Rest } from './rest.ts'

// The page's content security policy allows no code made from strings.
config({ jitless: true })

/** The plan as it is given to others, with the verdicts of all routes and kinds of player; null: they are not known. */
export interface HandedPlan {
  records: PlainRecords
  verdicts: RouteVerdicts[] | null
}

/** How a route looks for one kind of player. */
export interface ProfileView {
  key: string
  name: string
  trace: RouteTrace
  stops: ProfileResult['stops']
  verdicts: Record<string, Verdict>
}

/** What is new in a view, with its number; whole: it goes on from none before. A better look than it is can be asked for, if there is one. */
export interface SentUpdate {
  number: number
  isWhole: boolean
  look: Look
  update: RouteUpdate
}

/** A change that is not made: the plan after it, what of it was made anew (null: it was compiled whole), and its check. */
interface Tried {
  after: Records
  again: Recompiled | null
  check: KeptCheck
}

/** What was tried, so that it need not be worked out again if the change is made: of which plan, and by which key the check is kept. */
interface LookedAhead extends Tried {
  again: Recompiled
  of: Records
  /** As text. */
  changes: string
  key: string
}

let records: Records | null = null
let compiled: Compiled | null = null
const kept = new KeptChecks()
/** The change that was looked ahead at last, and what came of it. */
let ahead: LookedAhead | null = null
/** The view that was sent last, with its number. */
let sent: { number: number; view: RouteView } | null = null
const drawBeside = new DrawBeside()
/** Cores: the page and this worker need one each. */
const cores = navigator.hardwareConcurrency
/** Whether what is checked is looked at: then half of the walks are drawn beside, though the page may want for it. */
let isFront = true
const rest = new Rest()
/** By plan the verdicts that were found with its findings: of a large one the page would take long to read them, and only hand them on. */
const verdictsFound = new WeakMap<Records, RouteVerdicts[]>()
let latest = 0
let previewed = 0
/** The check of which the page was told last. */
let shown: RouteCheck | null = null

/** What is behind a verdict is told of the gate that is looked at (see explain). */
const withoutDebts: RouteCheckOptions = { ...defaultRouteOptions, debts: false }

/** Lets a message that waits be heard before the next step, and rests while that is asked for, if what is done is not looked at. */
async function breath(): Promise<void> {
  if (isFront) await heard()
  else await rest.calm()
}

function ready(): Compiled {
  if (compiled) return compiled
  kept.clear()
  return (compiled = compile(records!))
}

/** Makes anew what a change touches, where that is all that it touches, and its numbers are of use. */
function follow({ changes }: Diff): void {
  const again = compiled && recompile(compiled, records!, changes)
  compiled = again && keepsNumbers(again.compiled) ? again.compiled : null
  if (again) kept.touch(again.touched)
}

/** What was tried, if it is of use when the change is made: what few walks have drawn, or was compiled whole, is not. */
function lookedAhead(of: Records, { changes }: Diff, key: string, found: Tried | null): LookedAhead | null {
  const again = found?.again
  return again && !found.check.check.isDrawn ? { ...found, again, of, changes: JSON.stringify(changes), key } : null
}

/** Takes what a look ahead at a change has found, now that it is made; false: it was another one, or is of no use. */
function goOnFrom(look: LookedAhead | null, { changes }: Diff): boolean {
  if (!look || look.of !== records || look.changes !== JSON.stringify(changes) || !keepsNumbers(look.again.compiled)) return false
  records = look.after
  compiled = look.again.compiled
  kept.touch(look.again.touched)
  kept.put(look.key, look.check)
  return true
}

/** What is looked for in the whole plan is told in its order; and other threads that draw know sources and gates by the numbers of a plan compiled whole. */
function keepsNumbers({ isInOrder }: Compiled): boolean {
  return isInOrder || (isFront && !kept.isAnyDrawn)
}

/** The route and the kind of player with these keys, where they are in the game. */
function chosen(game: Game, routeKey: string, profileKey: string): { route: GameRoute | undefined; profile: GameProfile | undefined } {
  return { route: game.routes.find(({ key }) => key === routeKey), profile: game.profiles.find(({ key }) => key === profileKey) }
}

const keyOf = (route: Pick<GameRoute, 'key'>, profile: Pick<GameProfile, 'key'>) => `${route.key} ${profile.key}`

/** The steps of a check, which goes on from the one that was made before. */
function stepsOf(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, also: Touched | null = null): Generator<number, KeptCheck> {
  return keptCheckInSteps(game, route, profile, options, beforeOf(route, profile, also))
}

/** The check that was made before, and what was made anew since; null: there is none. */
function beforeOf(route: GameRoute, profile: GameProfile, also: Touched | null = null): CheckBefore | null {
  return kept.before(keyOf(route, profile), also)
}

/** The check of a route for a profile, step by step; null when a newer call came in the meantime. */
async function checkOf(token: number, game: Game, route: GameRoute, profile: GameProfile, progress: (share: number) => void = () => {}): Promise<KeptCheck | null> {
  const key = keyOf(route, profile)
  const known = settledOf(game, route, profile)
  if (known) return known
  const other = underWay.get(key)
  if (other?.game === game && other.token === token) return other.check
  const check = checked(token, game, route, profile, progress)
  underWay.set(key, { token, game, check })
  try {
    return await check
  } finally {
    if (underWay.get(key)?.check === check) underWay.delete(key)
  }
}

/** The check of a route for a profile, if it has been made and is not rough. */
function settledOf(game: Game, route: GameRoute, profile: GameProfile): KeptCheck | null {
  const known = kept.get(keyOf(route, profile))
  return known && !isRough(known) && known.check.game === game ? known : null
}

/** Checks that are being made, by route and profile: who asks for the same waits for it. */
const underWay = new Map<string, { token: number; game: Game; check: Promise<KeptCheck | null> }>()

function checked(token: number, game: Game, route: GameRoute, profile: GameProfile, progress: (share: number) => void): Promise<KeptCheck | null> {
  const of = records!
  const beside = (order: DrawOrder) => drawBeside.order(of, route.key, profile.key, order)
  const mayDrawBeside = cores > (isFront ? 1 : 3) && compiled?.isInOrder !== false
  return made(token, game, route, profile, { ...withoutDebts, rhythm: !isFront, ...(mayDrawBeside && { beside }) }, progress)
}

/** Edits that are rehearsed, and for how long at most, in milliseconds. */
const [rehearsals, longestRehearsal] = [30, 2_000]

/** Walks that a first look draws: it comes long before the others are drawn, and tells roughly what they do. */
const fewWalks = 300

/** Where fewer items than these come after what is in view, the whole is there as soon. */
const fewItems = 500

/** What an edit of sources alters up to a stop; null where the whole is there as soon, or when a newer call came in the meantime. */
async function nearLook(token: number, game: Game, route: GameRoute, profile: GameProfile, until: number): Promise<NearLook | null> {
  const before = beforeOf(route, profile)
  const itemsAfter = (game.sources.length + game.gates.length) * (1 - (until + 1) / route.stops.length)
  if (!before?.touched.sources.size || itemsAfter < fewItems) return null
  return inTurns(nearLookInSteps(game, route, profile, withoutDebts, before, until), () => latest === token, { pause: breath })
}

/** A check that draws few walks, if it has to draw any: what it does not have to draw is not worked out again. Null when a newer call came in the meantime. */
async function firstLook(token: number, game: Game, route: GameRoute, profile: GameProfile, progress: (share: number) => void): Promise<KeptCheck | null> {
  return settledOf(game, route, profile) ?? made(token, game, route, profile, { ...withoutDebts, walks: fewWalks }, progress)
}

function isRough({ check }: KeptCheck): boolean {
  return check.isDrawn && check.options.walks === fewWalks
}

async function made(token: number, game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, progress: (share: number) => void): Promise<KeptCheck | null> {
  const check = await inTurns(stepsOf(game, route, profile, options), () => latest === token, { pause: breath, tell: progress })
  if (check && compiled?.game === game) kept.put(keyOf(route, profile), check)
  return check
}

/** What the check would say after a change that is not made. Null where it is not wanted any more, or where there would be no such route or kind of player. */
async function tried(of: Records, diff: Diff, [routeKey, profileKey]: readonly [string, string], walks: number, isWanted: () => boolean, pause = breath): Promise<Tried | null> {
  const after = apply(of, diff)
  const again = compiled && recompile(compiled, after, diff.changes)
  const { game } = again?.compiled ?? compile(after)
  const { route, profile } = chosen(game, routeKey, profileKey)
  if (!route || !profile) return null
  const few = { ...withoutDebts, walks }
  const steps = again ? stepsOf(game, route, profile, few, again.touched) : keptCheckInSteps(game, route, profile, few, null)
  const check = await inTurns(steps, isWanted, { pause })
  return check && { after, again, check }
}

function send(since: number | null, view: RouteView, look: Look = 'settled'): SentUpdate {
  const isKnown = sent !== null && sent.number === since
  const update = updateBetween(isKnown ? sent!.view : null, view)
  sent = { number: (sent?.number ?? 0) + 1, view }
  return { number: sent.number, isWhole: !isKnown, look, update }
}

const worker = {
  load(next: PlainRecords): void {
    records = next
    compiled = null
    ahead = null
  },

  /** The same from the text that the server sends. Where it is looked at it is made ready before anything is asked. */
  open(text: string): void {
    worker.load(plainRecords(recordsOf(JSON.parse(text) as PlanDocument)))
    if (isFront) ready()
  },

  edit(diff: Diff): void {
    if (!goOnFrom(ahead, diff)) {
      records = apply(records!, diff)
      follow(diff)
    }
    ahead = null
  },

  /** Gives the plan as it is now to who waits for it at the other end. */
  hand(port: MessagePort): void {
    port.postMessage(records && ({ records: plainRecords(records), verdicts: verdictsFound.get(records) ?? null } satisfies HandedPlan))
  },

  /** This worker works behind another: nothing that it does is waited for. */
  stepBack(): void {
    isFront = false
  },

  /** The user's hands are busy, or at rest again. */
  hush(busy: boolean): void {
    rest.hush(busy)
  },

  /** What was asked with an older token is no longer wanted. */
  newer(token: number): void {
    latest = token
  },

  /**
   * Checks a route for a profile: what is new since the view with the number `since` (null: all). Null when a newer call came in the
   * meantime. `progress` is told of long ones. `wanted`: such a look is enough for now; a near one goes up to the stop `until`.
   */
  async check(token: number, since: number | null, routeKey: string, profileKey: string, progress: (share: number) => void, wanted: Look = 'settled', until = Infinity): Promise<SentUpdate | null> {
    latest = token
    await breath()
    if (latest !== token || !records) return null
    const { game, issues } = ready()
    const { route, profile } = chosen(game, routeKey, profileKey)
    if (!route || !profile || route.stops.length === 0) return send(since, { result: null, trace: null, issues })
    const near = wanted === 'near' ? await nearLook(token, game, route, profile, until) : null
    if (latest !== token) return null
    if (near) return send(since, { ...near, issues }, 'near')
    const check = await (wanted === 'settled' ? checkOf : firstLook)(token, game, route, profile, progress)
    shown = check?.check ?? shown
    return check && send(since, { result: check.result, trace: check.trace, issues }, isRough(check) ? 'rough' : 'settled')
  },

  /**
   * Findings of the whole plan, for all routes and kinds of player, without lock-outs; their verdicts are known then. Null when a newer call came in the meantime.
   */
  async findings(token: number): Promise<Finding[] | null> {
    await breath()
    if (latest !== token || !records) return null
    // An edit may come in between: what was begun with is what is finished.
    const [of, whole] = [records, ready()]
    const { game } = whole
    const { routes, played }: CheckedRoutes = { routes: [], played: [] }
    for (const route of game.routes.filter((found) => found.stops.length > 0)) {
      const profiles: ProfileResult[] = []
      for (const profile of game.profiles) {
        const check = await checkOf(token, game, route, profile)
        await breath()
        if (latest !== token || !check) return null
        profiles.push(check.result)
        played.push(...playedOf(of.head.settings, route, check))
      }
      routes.push({ route: route.id, profiles })
    }
    const isWanted = () => latest === token
    const reach = await inTurns(reachInSteps(game), isWanted, { pause: breath })
    const findings = reach && (await inTurns(findingsInSteps(of, whole, { routes, played }, reach, null), isWanted, { pause: breath }))
    if (findings) verdictsFound.set(of, verdictsAlone(routes))
    return findings
  },

  /** How the walks that the plan keeps go in it. Null when a newer call came in the meantime. */
  async walks(token: number): Promise<WalkResult[] | null> {
    await breath()
    return latest === token && records ? checkWalks(records, ready()) : null
  },

  /** The route for all kinds of player. Null when a newer call came in the meantime. */
  async everyone(token: number, routeKey: string): Promise<ProfileView[] | null> {
    await breath()
    if (latest !== token || !records) return null
    const { game } = ready()
    const route = game.routes.find((found) => found.key === routeKey)
    if (!route || route.stops.length === 0) return []
    const names = new Map([...records.profile.values()].map(({ key, name, id }) => [key, name || id]))
    const views: ProfileView[] = []
    for (const profile of game.profiles) {
      const check = await checkOf(token, game, route, profile)
      if (!check) return null
      const { result: { gates, stops }, trace } = check
      const verdicts = Object.fromEntries(gates.map(({ gate, verdict }) => [gate, verdict]))
      views.push({ key: profile.key, name: names.get(profile.key) ?? profile.id, trace, stops, verdicts })
    }
    return views
  },

  /**
   * Which verdicts of the chosen route and kind of player a change would alter, were it made. Null when a newer call of this or of
   * the check came in the meantime. Not more than what can be read at a glance is walked: few drawn walks.
   */
  async preview(token: number, diff: Diff, routeKey: string, profileKey: string): Promise<Turn[] | null> {
    previewed = token
    const [begun, of] = [latest, records]
    await breath()
    if (previewed !== token || latest !== begun || !of || records !== of) return null
    const key = keyOf({ key: routeKey }, { key: profileKey })
    const before = kept.get(key)?.result
    const isWanted = () => previewed === token && latest === begun
    const found = before ? await tried(of, diff, [routeKey, profileKey], 1_000, isWanted) : null
    if (!isWanted()) return null
    ahead = lookedAhead(of, diff, key, found)
    return before && found ? turnsBetween(before, found.check.result, found.after) : []
  },

  /**
   * Checks edits that a designer may make next, and forgets them. The engine makes code ready as it is used: without this the first edits
   * of a plan that was just opened would take three times as long as those that follow. False where something else was asked before it was done.
   */
  async rehearse(token: number, routeKey: string, profileKey: string): Promise<boolean> {
    const [asked, of] = [previewed, records]
    const isWanted = () => latest === token && previewed === asked && records === of
    const until = performance.now() + longestRehearsal
    for (const diff of of ? likelyEdits(of, rehearsals) : []) {
      await rest.calm()
      if (!isWanted()) return false
      if (performance.now() > until) break
      const found = diff && (await tried(of!, diff, [routeKey, profileKey], fewWalks, isWanted, () => rest.calm()))
      if (found && sent) updateBetween(sent.view, { ...sent.view, result: found.check.result, trace: found.check.trace })
    }
    return isWanted()
  },

  /**
   * The sum behind a gate, and what would open it; sums of more lines than `most` stop by stop. Null when the plan has changed in the
   * meantime: verdicts go before.
   */
  async explain(routeKey: string, profileKey: string, gateKey: string, most: number): Promise<ReadExplanation | null> {
    const of = records
    if (!of) return null
    const { game } = ready()
    const { route, profile } = chosen(game, routeKey, profileKey)
    const g = game.gates.findIndex(({ key }, at) => key === gateKey && !game.gone.has(at))
    if (!route || !profile || g < 0) return null
    const further = shown?.game === game && shown.route === route && shown.profile === profile ? shown.furtherFrom(g) : null
    const explained = await inTurns(explainInSteps(game, route, profile, g, further), () => records === of, { pause: heard })
    return explained && readable(explained, most)
  },
}

export type CheckWorker = typeof worker
expose(worker)
