<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { setFields } from '../../../core/change/edits.ts'
import { asksText, givesText, readAsks } from '../../../core/exchange/row-text.ts'
import { inOrder } from '../../../core/plan/records.ts'
import { wholeFrom } from '../../../core/plan/source.ts'
import { lockedText, missingFor, type WalkMove } from '../../../core/play/walk.ts'
import { toldOf } from '../../../core/play/told.ts'
import { fromUnits } from '../../../core/rules/compile.ts'
import { canOpen, canTake, closedOnWay, isOpen, standsAt } from '../../../core/rules/engine.ts'
import { floorAt, valueAt } from '../../../core/rules/gain.ts'
import { limitOf } from '../../../core/rules/state.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import { statValues } from '../../../core/view/stat-table.ts'
import { PlanIndex } from '../../../core/rules/plan-index.ts'
import { addCommands } from '../../commands.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'
import type { ProfileView } from '../../workers/check.worker.ts'

/** The plan played by hand, by its own rules: what is here, what it gives and asks, what is held, and everything that happened. */
const plan = usePlanStore()
const check = useCheckStore()
const walk = useWalkStore()

/** Something that can be done here. */
interface Item {
  key: string
  kind: 'source' | 'gate' | 'way'
  name: string
  detail: string
  note: string
  can: boolean
  done: boolean
  move: WalkMove
  /** Everything of it at once. */
  all: WalkMove
  gate?: number
}

const items = computed((): Item[] => {
  const { game, state, place } = walk
  const { records } = plan
  if (!game || !state || !place || !records) return []
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const contents = place.contents.map(({ source: s, gate: g }): Item => {
    if (g !== null) return gateItem(g)
    const source = game.sources[s!]!
    const row = records.source.get(source.key)!
    const left = Math.max(0, source.count - state.taken[s!]!)
    const whole = wholeOf(row)
    const can = canTake(game, state, s!)
    return {
      key: source.key, kind: 'source', name: source.name || source.id, detail: givesText({ ...whole, count: 1 }), can, done: left === 0 && !source.respawns,
      note: `${left} of ${countText(source.count, 'unit')} left${left === 0 && source.respawns ? ', repeats' : ''}${source.main ? '' : ', side'}${!can && left > 0 && source.requires.text ? `; needs ${source.requires.text}` : ''}`,
      move: { take: source.id, units: 1 }, all: { take: source.id, units: Math.max(1, left) },
    }
  })
  const anywhere = game.anywhere.filter((g) => standsAt(game, game.gates[g]!, state.place)).map(gateItem)
  const ways = place.ways.map(({ passage, to }): Item => {
    const closed = closedOnWay(game, state, passage, to)
    return { key: `way ${passage}`, kind: 'way', name: game.places[to]!.name || game.places[to]!.id, detail: closed.length ? `barred by ${closed.map((g) => game.gates[g]!.name || game.gates[g]!.id).join(' and ')}` : 'open', note: state.visited[to] ? 'been there' : '', can: closed.length === 0, done: false, move: { go: game.passages[passage]!.id }, all: { go: game.passages[passage]!.id } }
  })
  return [...contents, ...anywhere, ...ways]
})

function gateItem(g: number): Item {
  const { game, state } = walk
  const gate = game!.gates[g]!
  const opened = isOpen(game!, state!, g)
  const missing = opened ? [] : missingFor(game!, state!, g)
  return {
    key: gate.key, kind: 'gate', name: gate.name || gate.id, detail: asksText(plan.records!.gate.get(gate.key)!) || 'asks for nothing', can: !gate.live && canOpen(game!, state!, g), done: opened,
    note: opened ? 'open' : missing.map(({ text, need, have }) => `${text}: ${numberText(have)} of ${numberText(need)}`).join('; '), move: { open: gate.id }, all: { open: gate.id }, gate: g,
  }
}

const active = ref(0)
const list = ref<HTMLElement>()
watch(() => walk.place, () => (active.value = 0))
watch(items, (now) => (active.value = Math.min(active.value, Math.max(0, now.length - 1))))

function act(item: Item | undefined, all = false): void {
  if (!item) return
  walk.make(all ? item.all : item.move)
  void nextTick(() => list.value?.focus())
}

function onKey(event: KeyboardEvent): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) active.value = Math.min(Math.max(active.value + by, 0), items.value.length - 1)
  else if (event.key === 'Enter') act(items.value[active.value], event.shiftKey)
  else if (event.key === 'Backspace') walk.undo()
  else return
  event.preventDefault()
  event.stopPropagation()
}

/** All main content here, every gate that opens, and on to the next stop of the chosen route. */
function walkOn(): void {
  for (let changed = true; changed; ) {
    changed = false
    for (const item of items.value) {
      const isMain = item.kind === 'source' ? walk.game!.sources.find(({ key }) => key === item.key)!.main : item.kind === 'gate' && walk.game!.gates[item.gate!]!.main
      if (isMain && item.can && !item.done && !/^0 of/.test(item.note) && walk.make(item.all)) changed = true
    }
  }
  const next = nextStop.value
  const way = next && items.value.find((item) => item.kind === 'way' && item.name === next)
  if (way) walk.make(way.move)
  void nextTick(() => list.value?.focus())
}
/** The name of the place after this one on the chosen route, by how far along it the walk has come. */
const nextStop = computed(() => {
  const { game, place, walk: played } = walk
  const route = game?.routes.find(({ key }) => key === check.routeKey)
  if (!game || !place || !route || !played) return null
  const been = [played.first.place, ...played.steps.filter(({ move }) => 'go' in move).map(({ state }) => state.place)]
  let at = walk.start.at === 'stop' ? walk.start.stop : 0
  for (const p of been.slice(1)) if (route.stops[at + 1] === p) at++
  if (route.stops[at] !== walk.state?.place) at = route.stops.indexOf(walk.state?.place ?? -1)
  const to = at < 0 ? undefined : route.stops[at + 1]
  return to === undefined ? null : game.places[to]!.name || game.places[to]!.id
})

const characters = computed(() => {
  const { game, state } = walk
  if (!game || !state) return []
  return game.characters.map((character, c) => {
    const { curve } = character
    const level = state.level[c]!
    const limit = limitOf(game, state, c)
    const inPlan = (units: number) => Math.round((fromUnits(units) / (curve?.grain ?? 1)) * 100) / 100
    const floor = curve ? floorAt(curve, level) : 0
    const needed = curve && level < limit ? inPlan(valueAt(curve, level) - floor) : null
    const xp = inPlan(state.xp[c]! - floor)
    return { id: character.id, name: character.name || character.id, present: state.present[c] === 1, level, limit, needed, xp, form: character.forms.find((form) => form.from <= level && level <= form.to)?.name ?? '', stats: statsAt(c, level) }
  })
})
const tallies = computed(() => (walk.game && walk.state ? walk.game.tallies.map((tally, t) => ({ id: tally.id, name: tally.name || tally.id, amount: fromUnits(walk.state!.tallies[t]!) })) : []))

function statsAt(c: number, level: number): { name: string; value: number }[] {
  const row = plan.records && inOrder(plan.records, 'character')[c]
  const curve = row && inOrder(plan.records!, 'curve').find((one) => one.id === row.curve)
  return row && curve ? row.stats.map((stat) => ({ name: stat.name || stat.id, value: statValues(stat, curve)[level - curve.firstLevel] ?? 0 })) : []
}

function moveText(move: WalkMove): string {
  const name = (kind: 'source' | 'gate' | 'passage' | 'tally', id: string) => (plan.records ? ((inOrder(plan.records, kind) as { id: string; name?: string }[]).find((row) => row.id === id)?.name ?? id) : id)
  if ('go' in move) return 'go'
  if ('take' in move) return `${move.units > 1 ? `${move.units} × ` : ''}${name('source', move.take)}`
  if ('open' in move) return `open ${name('gate', move.open)}`
  if ('give' in move) return `gift: ${numberText(move.amount)} ${name('tally', move.give)}`
  return 'fail' in move ? 'fail and try again' : 'quit and come back'
}
const log = computed(() => (walk.walk && walk.game ? walk.walk.steps.map((step, i) => ({ i, text: 'go' in step.move ? `to ${walk.game!.places[step.state.place]!.name}` : moveText(step.move), gift: 'give' in step.move, told: toldOf(walk.game!, step, statsAt) })) : []))
const logEnd = ref<HTMLElement>()
watch(log, () => void nextTick(() => logEnd.value?.scrollIntoView({ block: 'nearest' })))

// How the walk stands beside the kinds of player: what each has on leaving this place.
const everyone = shallowRef<ProfileView[]>([])
watch(() => check.view, async () => {
  const found = await check.everyone()
  if (found) everyone.value = found
}, { immediate: true })
const besides = computed(() => {
  const id = walk.place?.id
  const leader = characters.value[0]
  if (!id || !leader) return []
  return everyone.value.flatMap(({ name, stops }) => {
    const levels = stops.find((stop) => stop.place === id)?.levels[leader.id]
    if (!levels) return []
    const off = leader.level > levels.q95 ? leader.level - levels.q95 : leader.level < levels.q05 ? leader.level - levels.q05 : 0
    return [{ name, text: `${numberText(levels.q05)}${levels.q95 === levels.q05 ? '' : ` to ${numberText(levels.q95)}`}`, off }]
  })
})

const gift = ref('100')
const giftTally = ref('')
function give(): void {
  const amount = Number(gift.value.replace(',', '.'))
  const id = giftTally.value || tallies.value[0]?.id
  if (id && Number.isFinite(amount)) walk.make({ give: id, amount })
}

/** What a gate asks for, changed in place; the walk is played anew under it. */
const editing = ref<string | null>(null)
const asked = ref('')
const says = ref('')
function edit(item: Item): void {
  editing.value = item.key
  asked.value = item.detail === 'asks for nothing' ? '' : item.detail
  says.value = ''
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-test="asks editor"]')?.select())
}
function takeEdit(item: Item): void {
  if (!plan.records || editing.value !== item.key) return
  const read = readAsks(asked.value, inOrder(plan.records, 'tally'), new PlanIndex(plan.records).vocabulary)
  if (!read.ok) return void (says.value = read.says)
  editing.value = null
  plan.edit(setFields(plan.records, 'gate', item.key, read.fields, `${item.name} asks for ${asked.value.trim() || 'nothing'}`))
  walk.refusal = null
  void nextTick(() => list.value?.focus())
}

const routes = computed(() => (walk.game ? walk.game.routes.filter((route) => route.stops.length > 0) : []))
function beginAt(event: Event): void {
  const { value } = event.target as HTMLSelectElement
  walk.begin(value === '' ? { at: 'start' } : { at: 'stop', route: check.routeKey ?? '', profile: check.profileKey ?? '', stop: Number(value) })
  void nextTick(() => list.value?.focus())
}
const stops = computed(() => routes.value.find(({ key }) => key === check.routeKey)?.stops.map((p) => walk.game!.places[p]!.name) ?? [])
const refusalText = computed(() => {
  const { refusal, game, state } = walk
  if (!refusal || !game || !state) return ''
  if (!('open' in refusal.move)) return refusal.says
  const { open } = refusal.move
  const g = game.gates.findIndex(({ id }) => id === open)
  return g < 0 || isOpen(game, state, g) ? refusal.says : lockedText(game, state, g)
})

onMounted(() => list.value?.focus())
const takeBack = addCommands([
  { id: 'walk-on', title: 'Walk: take all main here, and on along the route', keys: 'w', run: walkOn },
  { id: 'walk-undo', title: 'Walk: take a move back', keys: 'u', run: () => walk.undo() },
  { id: 'walk-redo', title: 'Walk: make it again', keys: 'y', run: () => walk.redo() },
  { id: 'walk-fail', title: 'Walk: fail and try again', keys: 'f', run: () => void walk.make({ fail: true }) },
  { id: 'walk-quit', title: 'Walk: quit and come back', keys: 'q', run: () => void walk.make({ quit: true }) },
  { id: 'walk-anew', title: 'Walk: begin anew', run: () => walk.begin(walk.start) },
])
onUnmounted(takeBack)
</script>

<template>
  <div v-if="plan.records && walk.game && !walk.place" class="nowhere" data-test="walk nowhere">
    <h2>There is nowhere to begin</h2>
    <p v-if="!walk.game.places.length">The plan has no places yet. <RouterLink :to="{ name: 'route', params: $route.params }">Add the first one in the Route view</RouterLink>; then it can be walked.</p>
    <p v-else>The plan names a start that does not exist. <RouterLink :to="{ name: 'route', params: $route.params }">Choose another in the Route view</RouterLink>, under <i>The plan as a whole</i>.</p>
  </div>
  <div v-else-if="plan.records" class="walk">
    <section class="here" aria-label="Here">
      <header>
        <h2 data-test="walk place">{{ walk.place?.name }}</h2>
        <label class="soft">from <select :value="walk.start.at === 'stop' ? walk.start.stop : ''" data-test="walk start" @change="beginAt"><option value="">the start of the plan</option><option v-for="(stop, i) in stops" :key="i" :value="i">{{ stop }}, as this kind of player arrives</option></select></label>
      </header>
      <p v-if="walk.walk?.broken" class="broken" role="alert" data-test="walk broken">The plan no longer bears this walk out at move {{ walk.walk.broken.index + 1 }} ({{ moveText(walk.moves[walk.walk.broken.index]!) }}): {{ walk.walk.broken.says }}</p>
      <p v-if="refusalText" class="refusal" role="alert" data-test="walk refusal">{{ refusalText }}</p>
      <ul ref="list" tabindex="0" role="grid" aria-label="What can be done here" :aria-activedescendant="items.length ? `walk-${active}` : undefined" data-test="walk items" @keydown="onKey">
        <li v-for="(item, i) in items" :id="`walk-${i}`" :key="item.key" role="row" :aria-selected="i === active" :class="[item.kind, { active: i === active, off: !item.can && !item.done, done: item.done }]" @click="active = i" @dblclick="act(item)">
          <span class="mark" role="gridcell">{{ item.kind === 'way' ? '→' : item.kind === 'gate' ? (item.done ? '●' : '○') : '' }}</span>
          <b role="gridcell">{{ item.name }}</b>
          <span v-if="editing === item.key" role="gridcell"><input v-model="asked" class="mono" :aria-label="`What ${item.name} asks for`" data-test="asks editor" @keydown.stop @keydown.enter.prevent="takeEdit(item)" @keydown.esc.prevent="editing = null" @click.stop /></span>
          <span v-else role="gridcell" class="detail" :class="{ mono: item.kind === 'gate' }">{{ item.detail }}</span>
          <span role="gridcell" class="soft note">{{ item.note }}</span>
          <span role="gridcell" class="acts">
            <button v-if="item.kind === 'source'" class="quiet" :disabled="!item.can" tabindex="-1" @click.stop="act(item)">take</button>
            <button v-if="item.kind === 'source'" class="quiet" :disabled="!item.can" tabindex="-1" @click.stop="act(item, true)">all</button>
            <button v-if="item.kind === 'gate' && !item.done" class="quiet" tabindex="-1" @click.stop="act(item)">open</button>
            <button v-if="item.kind === 'gate'" class="quiet" tabindex="-1" :aria-label="`Change what ${item.name} asks for`" @click.stop="edit(item)">change</button>
            <button v-if="item.kind === 'way'" class="quiet" tabindex="-1" @click.stop="act(item)">go</button>
          </span>
        </li>
        <li v-if="!items.length" role="row" class="soft"><span role="gridcell">Nothing is here, and no way leads on.</span></li>
      </ul>
      <p v-if="says" class="refusal" role="alert">{{ says }}</p>
      <footer class="soft"><kbd>Enter</kbd> does it, <kbd>Shift+Enter</kbd> takes all, <kbd>Backspace</kbd> takes a move back, <kbd>w</kbd> takes all main and goes on{{ nextStop ? ` to ${nextStop}` : '' }}
        <button class="act plain" data-test="walk on route" @click="walkOn">Walk on</button></footer>
    </section>
    <section class="held" aria-label="What is held">
      <div v-for="character in characters" :key="character.id" class="character" :class="{ away: !character.present }" :data-test="`walk ${character.id}`">
        <p><b>{{ character.name }}</b> level <b>{{ character.level }}</b>{{ character.form ? `, ${character.form}` : '' }} <span class="soft">{{ !character.present ? 'has not joined yet' : character.needed === null ? `at the limit${character.xp > 0 ? `, ${numberText(character.xp)} XP kept` : ''}` : `${numberText(character.xp)} of ${numberText(character.needed)} XP` }}</span></p>
        <div class="bar" role="img" :aria-label="`${character.name}: ${character.needed === null ? 'at the limit' : `${character.xp} of ${character.needed} XP`}`"><div :style="{ width: `${character.needed === null ? 100 : Math.min(100, (character.xp / character.needed) * 100)}%` }" /></div>
        <p v-if="character.stats.length" class="soft small">{{ character.stats.map((stat) => `${stat.name} ${numberText(stat.value)}`).join(', ') }}</p>
      </div>
      <p v-if="besides.length" class="small" data-test="walk band"><span class="soft">On leaving here:</span> <span v-for="one in besides" :key="one.name">{{ one.name }} level {{ one.text }}<b v-if="one.off" :class="one.off < 0 ? 'below' : 'above'"> ({{ countText(Math.abs(one.off), 'level') }} {{ one.off > 0 ? 'above' : 'below' }})</b>; </span></p>
      <table><tbody><tr v-for="tally in tallies" :key="tally.id" :data-test="`held ${tally.id}`"><td>{{ tally.name }}</td><td class="num"><b>{{ numberText(tally.amount) }}</b></td></tr></tbody></table>
      <form class="gift" @submit.prevent="give">
        <label>Gift <input v-model="gift" class="num" inputmode="decimal" aria-label="How much is given" data-test="gift amount" /></label>
        <select v-model="giftTally" aria-label="Of what" data-test="gift tally"><option value="">{{ tallies[0]?.name }}</option><option v-for="tally in tallies.slice(1)" :key="tally.id" :value="tally.id">{{ tally.name }}</option></select>
        <button class="quiet" data-test="give">give</button>
      </form>
      <p class="more"><button class="quiet" title="Fail and try again (f)" @click="walk.make({ fail: true })">fail</button><button class="quiet" title="Quit and come back (q)" @click="walk.make({ quit: true })">quit</button><button class="quiet" @click="walk.begin(walk.start)">begin anew</button></p>
    </section>
    <section class="log" aria-label="What happened">
      <h3>{{ countText(walk.moves.length, 'move') }} <span><button class="quiet" :disabled="!walk.moves.length" aria-label="Take a move back" title="Take a move back (u)" @click="walk.undo()">↶</button><button class="quiet" :disabled="!walk.undone.length" aria-label="Make it again" title="Make it again (y)" @click="walk.redo()">↷</button></span></h3>
      <ol data-test="walk log">
        <li v-for="entry in log" :key="entry.i" :class="{ gift: entry.gift }"><button class="link" title="Back to here" @click="walk.jump(entry.i + 1)">{{ entry.text }}</button><span v-if="entry.told.length" class="told">{{ entry.told.join('; ') }}</span></li>
      </ol>
      <span ref="logEnd" />
    </section>
  </div>
</template>

<style scoped>
.walk { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 290px 310px; grid-template-rows: minmax(0, 1fr); min-height: 0; min-width: 0; }
section { min-height: 0; overflow: auto; padding: 10px 14px; }
.nowhere { margin: 80px auto; max-width: 520px; padding: 0 20px; }
.here { display: flex; flex-direction: column; }
.held, .log { border-left: 1px solid var(--line); }
header { align-items: baseline; display: flex; flex-wrap: wrap; gap: 4px 16px; justify-content: space-between; }
h2 { font-size: 18px; margin: 0; }
h3 { align-items: center; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 6px; }
select, input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 3px 6px; }
ul { flex: 1; list-style: none; margin: 8px 0; min-height: 80px; overflow: auto; padding: 2px; }
li[role='row'] { align-items: center; border-bottom: 1px solid var(--line); cursor: default; display: grid; gap: 0 8px; grid-template-columns: 16px minmax(110px, 1.1fr) minmax(0, 1.3fr) minmax(0, 1fr) 118px; padding: 4px 6px; }
li.way { background: var(--panel); }
li.off b, li.off .detail { color: var(--soft); }
li.done b, li.done .detail { color: var(--soft); font-weight: 400; }
ul:focus li.active { box-shadow: inset 0 0 0 2px var(--accent); }
li.active { background: var(--mark); }
.mark { color: var(--accent); text-align: center; }
.mono { font-size: 12px; }
.note { font-size: 12px; }
.acts { text-align: right; white-space: nowrap; }
.acts .quiet { background: var(--raised); border-color: var(--line); font-size: 12px; padding: 3px 7px; }
.broken, .refusal { border-radius: 4px; margin: 6px 0; padding: 6px 10px; }
.broken { background: color-mix(in srgb, var(--short) 14%, transparent); color: var(--short); font-weight: 600; }
.refusal { background: var(--mark); }
footer { align-items: center; display: flex; flex: none; flex-wrap: wrap; font-size: 12px; gap: 4px 8px; }
footer .act { margin-left: auto; padding: 4px 12px; }
kbd { background: var(--panel); border-radius: 3px; font-family: var(--mono); padding: 0 4px; }
.character { margin-bottom: 10px; }
.character p { margin: 0 0 3px; }
.away { color: var(--soft); }
.bar { background: var(--panel); border-radius: 5px; height: 10px; overflow: hidden; }
.bar div { background: var(--accent); height: 100%; transition: width 0.2s; }
.small { font-size: 12px; }
.above { color: var(--depends); }
.below { color: var(--short); }
table { border-collapse: collapse; margin: 6px 0; width: 100%; }
td { border-top: 1px solid var(--line); padding: 1px 2px; }
.gift { align-items: center; display: flex; flex-wrap: wrap; gap: 6px; }
.gift input { width: 64px; }
.gift .quiet, .more .quiet { border-color: var(--line); margin-right: 6px; }
ol { margin: 0; padding-left: 30px; }
ol li { padding: 2px 0; }
li.gift .link { color: var(--depends); font-style: italic; }
.link { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 13px; font-weight: 600; padding: 0; text-align: left; }
.told { color: var(--soft); display: block; font-size: 12px; }
</style>
