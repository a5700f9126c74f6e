import { proxy, transfer, wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowRef, watch } from 'vue'
import type { Diff } from '../../core/change/diff.ts'
import type { Finding, GateResult, LockoutResult, Verdict } from '../../core/check/result.ts'
import type { ReadExplanation } from '../../core/check/route/explain.ts'
import { inOrder, plainRecords, type Records } from '../../core/plan/records.ts'
import type { WalkResult } from '../../core/play/check-walks.ts'
import { verdictOrder } from '../../core/view/verdict-text.ts'
import { updated, type RouteView } from '../../core/view/route-update.ts'
import type { Turn } from '../../core/view/turns.ts'
import type { CheckWorker, ProfileView, SentUpdate } from '../workers/check.worker.ts'
import { watchHands, type Hands } from '../watch-hands.ts'
import { LongSearch } from '../workers/long-search.ts'
import { betterThan, type Look } from '../workers/look.ts'
import { busyFlag, setBusy } from '../workers/resting-clock.ts'
import { usePlanStore, type Changed } from './plan.ts'

/** What takes longer than this shows its progress. */
const patience = 300

const noGates: readonly GateResult[] = []
const noIssues: RouteView['issues'] = []

/** What is new in the verdicts; null: something newer was asked. */
type Asked = Promise<SentUpdate | null>

/** Findings are looked for when nothing was changed for so long: whoever types on is not slowed down. */
const pause = 300

/** Lock-outs are looked for when nothing was changed for so long. */
const quiet = 2_000

/** What was chosen and is gone, and what is shown instead of it: it is chosen again when it comes back. */
interface Lost {
  key: string | null
  instead: string | null
}

/** The key of a row that is there: the chosen one, the one that it stands in for, or the first. */
function existing(rows: readonly { key: string }[], key: string | null, lost: Lost): string | null {
  const has = (wanted: string | null) => rows.some((row) => row.key === wanted)
  const { key: gone, instead } = lost
  if (instead === key && has(gone)) {
    Object.assign(lost, { key: null, instead: null })
    return gone
  }
  if (has(key)) return key
  if (instead !== key || gone === null) lost.key = key
  return (lost.instead = rows[0]?.key ?? null)
}

/** What the check says of the open plan, for the chosen route and profile; kept up with every edit by a worker. */
export const useCheckStore = defineStore('check', () => {
  const plan = usePlanStore()
  const routeKey = ref<string | null>(null)
  const profileKey = ref<string | null>(null)
  const view = shallowRef<RouteView | null>(null)
  /** 0 to 1 while a long check is under way, else null. */
  const progress = ref<number | null>(null)
  /** How well the verdicts of the plan as it is are known; null: not at all. */
  const look = ref<Look | null>(null)
  /** While the verdicts shown are not those of the plan as it is, or not all of them. */
  const isStale = computed(() => look.value !== 'settled')
  /** While they are those of a first look at the plan as it is. */
  const isRough = computed(() => look.value === 'rough')
  const failure = ref<string | null>(null)
  const findings = shallowRef<Finding[]>([])
  /** How the walks that the plan keeps go, by id. */
  const walks = shallowRef(new Map<string, WalkResult>())
  /** From an edit until its findings are there: those shown are of the plan as it was before. */
  const isLooking = ref(false)
  /** Whether the verdicts of all routes and kinds of player are known for the plan as it is: then fixes can say what else they alter. */
  const areAllKnown = ref(false)
  /** Lock-outs of the plan as it is; null while they are not known. */
  const lockouts = shallowRef<LockoutResult | null>(null)
  const lockoutFindings = shallowRef<Finding[]>([])
  const isLookingForLockouts = ref(false)
  const lockoutSearch = new LongSearch(handPlan)
  /** Whether all kinds of player are shown at once. */
  const showsEveryone = ref(false)
  /** The route for all kinds of player, while they are shown. */
  const others = shallowRef<ProfileView[]>([])
  let lockoutTimer: ReturnType<typeof setTimeout> | undefined
  /** What is looked at is checked by one worker, everything else behind it by another: nothing waits for what is not looked at. */
  const front = startedOnce(() => {})
  let isBackThere = false
  const back = startedOnce((worker) => {
    isBackThere = true
    void worker.stepBack()
    void worker.newer(token)
    if (hands?.areBusy()) void worker.hush(true)
  })
  /** The user's hands. They are watched once there are verdicts, and who works behind is told of them. */
  let hands: Hands | null = null
  const handsFlag = busyFlag()
  /** The text that the worker in front was given before the records of it were made. */
  let ahead: string | null = null
  /** Changes of which the one behind is told when something is asked of it: opening a large plan is work that can wait. */
  let untold: { records: Records; changed: Changed }[] = []
  /** The last view that came, also where it is no longer wanted: the next one says only what is new since. */
  let received: { number: number; view: RouteView } | null = null
  const lost: Record<'route' | 'profile', Lost> = { route: { key: null, instead: null }, profile: { key: null, instead: null } }
  /** Until the worker in front has rehearsed edits of the plan that was opened. */
  let isNew = false
  let token = 0
  let previewToken = 0
  /** The last stop in view: what an edit alters up to there is shown first. Infinity: nothing is. */
  let seenUntil = Infinity

  const routes = computed(() => (plan.records ? inOrder(plan.records, 'route') : []))
  const profiles = computed(() => (plan.records ? inOrder(plan.records, 'profile') : []))
  /** The middle walk and what was found on leaving its stops: the same while they are alike, whatever else the check says anew. */
  const trace = computed(() => view.value?.trace ?? null)
  const stops = computed(() => view.value?.result?.stops ?? null)
  const gates = computed(() => view.value?.result?.gates ?? noGates)
  /** The same, but for those that are to be seen first: they are counted when all are there. */
  const gatesInAll = computed<readonly GateResult[]>((before = noGates) => (look.value === 'near' ? before : gates.value))
  const gatesById = computed(() => markRaw(new Map(gates.value.map((gate) => [gate.gate, gate]))))
  const issues = computed(() => view.value?.issues ?? noIssues)
  const issuesByKey = computed(() => {
    const byKey = new Map<string, RouteView['issues']>()
    for (const issue of issues.value) if (issue.item) byKey.set(issue.item.key, [...(byKey.get(issue.item.key) ?? []), issue])
    return byKey
  })

  function startedOnce(begin: (worker: Remote<CheckWorker>) => void): () => Remote<CheckWorker> {
    let remote: Remote<CheckWorker> | null = null
    return () => {
      if (remote) return remote
      const started = new Worker(new URL('../workers/check.worker.ts', import.meta.url), { type: 'module' })
      started.addEventListener('error', (event) => (failure.value = `The check stopped: ${event.message}. Reload the page; the plan itself is kept.`))
      remote = wrap<CheckWorker>(started)
      begin(remote)
      return remote
    }
  }

  function tellOf(worker: Remote<CheckWorker>, records: Records, changed: Changed): void {
    if ('diff' in changed) void worker.edit(changed.diff)
    else void (changed.text === null ? worker.load(plainRecords(records)) : worker.open(changed.text))
  }

  /** The worker behind, told of all changes up to now. */
  function informedBack(): Remote<CheckWorker> {
    for (const { records, changed } of untold) tellOf(back(), records, changed)
    untold = []
    return back()
  }

  /** Gives a port the plan with all changes up to now. */
  function handPlan(port: MessagePort): void {
    void informedBack().hand(transfer(port, [port]))
  }

  plan.readAhead((text) => {
    ahead = text
    void front().open(text)
  })

  plan.subscribe((records, changed) => {
    chooseWhatExists()
    isNew ||= 'text' in changed
    if (!('text' in changed) || changed.text === null || changed.text !== ahead) tellOf(front(), records, changed)
    ahead = null
    untold = 'diff' in changed ? [...untold, { records, changed }] : [{ records, changed }]
    areAllKnown.value = false
    forgetLockouts()
    return run()
  })

  watch([routeKey, profileKey], () => void run())
  watch(() => plan.id, () => {
    for (const one of Object.values(lost)) Object.assign(one, { key: null, instead: null })
    giveUp()
  }, { flush: 'sync' })
  watch(showsEveryone, (shows) => {
    if (shows) void lookAtEveryone(token)
    else others.value = []
  })

  function chooseWhatExists(): void {
    routeKey.value = existing(routes.value, routeKey.value, lost.route)
    profileKey.value = existing(profiles.value, profileKey.value, lost.profile)
  }

  /** Asks for the verdicts of the plan as it is, and then for all that comes behind them; done when they are there. */
  async function run(): Promise<void> {
    const own = ++token
    await lookAtGates(own)
    if (own === token) void lookBehind(own)
  }

  async function lookAtGates(own: number): Promise<void> {
    const started = performance.now()
    let isAnswered = false
    look.value = null
    isLooking.value = true
    if (isBackThere) void back().newer(own)
    const tell = proxy((share: number) => {
      // It comes on a way of its own, and may come after the answer.
      if (own === token && !isAnswered && performance.now() - started > patience) progress.value = share
    })
    try {
      // What is in view is shown before all is known, and a rough look long before all walks are drawn.
      for (let asked: Asked | null = ask(own, tell, 'near'); asked; ) {
        const answer: SentUpdate | null = await asked
        if (answer) received = { number: answer.number, view: updated(answer.isWhole ? null : received!.view, answer.update) }
        const wanted: Look | null = answer && own === token ? betterThan[answer.look] : null
        // The next look is worked out while this one is drawn.
        asked = wanted && ask(own, tell, wanted)
        if (answer && own === token) show(answer.look)
      }
      isAnswered = true
      if (own === token && !isStale.value) failure.value = null
    } catch (error) {
      failure.value = (error as Error).message
    }
    if (own === token) progress.value = null
  }

  /** Asks for what is new in the verdicts since those that were received last. */
  function ask(own: number, tell: (share: number) => void, wanted: Look): Asked {
    return front().check(own, received?.number ?? null, routeKey.value ?? '', profileKey.value ?? '', tell, wanted, seenUntil)
  }

  function show(found: Look): void {
    view.value = received!.view
    look.value = found
  }

  async function lookBehind(own: number): Promise<void> {
    hands ??= watchHands((busy) => {
      setBusy(handsFlag, busy)
      void front().hush(busy)
      if (isBackThere) void back().hush(busy)
    })
    if (showsEveryone.value) await lookAtEveryone(own)
    await new Promise((done) => setTimeout(done, pause))
    // To begin with it is much work for whoever works behind, and there is little room beside who scrolls.
    await hands.atRest()
    if (own !== token) return
    if (isNew) void rehearse(own)
    await lookAtWalks(own)
    void lookForFindings(own)
  }

  /** Who opens a plan reads it first; the worker in front makes itself ready for the first edit in the meantime. */
  async function rehearse(own: number): Promise<void> {
    const isReady = await front().rehearse(own, routeKey.value ?? '', profileKey.value ?? '')
    if (own === token) isNew = !isReady
  }

  async function lookAtWalks(own: number): Promise<void> {
    const found = await informedBack().walks(own)
    if (found && own === token) walks.value = new Map(found.map((result) => [result.walk, result]))
  }

  async function lookAtEveryone(own: number): Promise<void> {
    const found = await informedBack().everyone(own, routeKey.value ?? '')
    if (found && own === token && showsEveryone.value) others.value = found
  }

  /** The route for all kinds of player, asked for once; null when something newer was asked in the meantime. */
  function everyone(): Promise<ProfileView[] | null> {
    return informedBack().everyone(token, routeKey.value ?? '')
  }

  /** A gate's verdict: of the chosen kind of player, or the worst for any while all are shown. */
  const shownVerdict = computed(() => (id: string): Verdict | undefined => {
    const own = gate.value(id)?.verdict
    const all = others.value.flatMap(({ verdicts: of }) => of[id] ?? [])
    return all.length ? [...all, ...(own ? [own] : [])].filter((v) => v !== 'off_route').sort((a, b) => verdictOrder.indexOf(b) - verdictOrder.indexOf(a))[0] ?? own : own
  })

  /** Findings come after the verdicts, and are looked for again when nothing newer is asked. */
  async function lookForFindings(own: number): Promise<void> {
    const found = await informedBack().findings(own)
    if (own !== token) return
    isLooking.value = false
    if (!found) return
    findings.value = found
    areAllKnown.value = true
    // Of a plan in which nothing stands yet there is nothing to say.
    if (plan.records?.place.size && !lockouts.value && !isLookingForLockouts.value) lookForLockoutsSoon()
  }

  /** What was asked of a plan that is left is no longer wanted. */
  function giveUp(): void {
    token++
    void front().newer(token)
    if (isBackThere) void back().newer(token)
    forgetLockouts()
  }

  function forgetLockouts(): void {
    stopLockouts()
    lockouts.value = null
  }

  function stopLockouts(): void {
    clearTimeout(lockoutTimer)
    lockoutSearch.end()
    isLookingForLockouts.value = false
  }

  function lookForLockoutsSoon(): void {
    clearTimeout(lockoutTimer)
    lockoutTimer = setTimeout(() => {
      // It rests while hands are busy, but to begin with it is much work, too.
      if (hands?.areBusy()) lookForLockoutsSoon()
      else void lookForLockouts()
    }, quiet)
  }

  /** Whether a player can get stuck: it takes seconds, and is given up at the next edit. */
  async function lookForLockouts(): Promise<void> {
    const of = plan.records
    if (!of) return
    isLookingForLockouts.value = true
    try {
      const report = await lockoutSearch.ask((search) => search.lockouts(handsFlag))
      if (!report || plan.records !== of) return
      lockouts.value = report.lockouts
      lockoutFindings.value = report.findings
    } catch (error) {
      failure.value = (error as Error).message
    }
    isLookingForLockouts.value = false
  }

  /** The verdicts that a change would alter for the chosen route and kind of player; null when it was asked of another one since. */
  async function preview(diff: Diff): Promise<Turn[] | null> {
    const own = ++previewToken
    const turns = await front().preview(own, diff, routeKey.value ?? '', profileKey.value ?? '')
    return own === previewToken ? turns : null
  }

  function seeUntil(stop: number): void {
    seenUntil = stop
  }

  // What every row asks for is read from computed functions: the store would wrap plain ones, which costs more than what they do.
  /** What is wrong with a record; the same list again where nothing is. */
  const issuesOf = computed(() => (key: string): RouteView['issues'] => issuesByKey.value.get(key) ?? noIssues)
  const gate = computed(() => (id: string): GateResult | undefined => gatesById.value.get(id))

  function explain(gateKey: string, most: number): Promise<ReadExplanation | null> {
    return front().explain(routeKey.value ?? '', profileKey.value ?? '', gateKey, most)
  }

  // It starts while the plan is still fetched.
  front()

  return { routeKey, profileKey, routes, profiles, view, trace, stops, gatesInAll, gatesById, progress, look, isStale, isRough, failure, issuesByKey, issuesOf, findings, walks, isLooking, areAllKnown, lockouts, lockoutFindings, isLookingForLockouts, showsEveryone, others, shownVerdict, everyone, gate, explain, preview, seeUntil, handPlan, stopLockouts, lookForLockouts }
})
