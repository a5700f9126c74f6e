<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { gateHere, levelHere } from '../../../core/play/expect.ts'
import { lockedText } from '../../../core/play/walk.ts'
import { isOpen } from '../../../core/rules/engine.ts'
import { addCommands } from '../../commands.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'
import { cellText, editCell } from '../route/sheet-actions.ts'
import ChoiceSelect from '../../components/ChoiceSelect.vue'
import KeptWalks from './KeptWalks.vue'
import StagePath from './StagePath.vue'
import { useWalkItems, type WalkItem } from './walk-items.ts'
import { moveText } from './move-text.ts'
import WalkHeld from './WalkHeld.vue'
import WalkLog from './WalkLog.vue'

/** The plan played by hand, by its own rules: what is here, what it gives and asks, what is held, and everything that happened. */
const plan = usePlanStore()
const check = useCheckStore()
const walk = useWalkStore()

const items = useWalkItems()

const active = ref(0)
const list = ref<HTMLElement>()
watch(() => walk.place, () => (active.value = 0))
watch(items, (now) => (active.value = Math.min(active.value, Math.max(0, now.length - 1))))

function act(item: WalkItem | undefined, all = false): void {
  if (!item) return
  walk.make(all ? item.all : item.move)
  void nextTick(() => list.value?.focus())
}

function onKey(event: KeyboardEvent): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) active.value = Math.min(Math.max(active.value + by, 0), items.value.length - 1)
  else if (event.key === 'Enter') act(items.value[active.value], event.shiftKey)
  else if (event.key === 'Backspace') walk.undo()
  else if (event.key === 'F2') edit(items.value[active.value])
  else return
  event.preventDefault()
  event.stopPropagation()
}

/** All main content here, every gate that opens, and on to the next stop of the chosen route. */
function walkOn(): void {
  for (let changed = true; changed; ) {
    changed = false
    for (const item of items.value) {
      if (item.main && item.can && !item.done && !/^0 of/.test(item.note) && walk.make(item.all)) changed = true
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
  return to === undefined ? null : labelOf(game.places[to]!)
})

/** What a gate asks for, or a source gives, changed in place; the walk is played anew under it. */
const editing = ref<string | null>(null)
const asked = ref('')
const says = ref('')
function rowOf(item: WalkItem) {
  const [source, gate] = [plan.records?.source.get(item.key), plan.records?.gate.get(item.key)]
  return source ? ({ type: 'source', id: item.key, source, stop: null } as const) : gate ? ({ type: 'gate', id: item.key, gate, stop: null } as const) : null
}
function edit(item: WalkItem | undefined): void {
  const row = item && rowOf(item)
  if (!row || !plan.records) return
  editing.value = item.key
  asked.value = cellText(plan.records, row, 'asks')
  says.value = ''
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-test="asks editor"]')?.select())
}
function takeEdit(item: WalkItem): void {
  const row = rowOf(item)
  if (!plan.records || !row || editing.value !== item.key) return
  const edited = editCell(plan.records, row, 'asks', asked.value)
  if ('says' in edited) return void (says.value = edited.says)
  leaveEdit()
  plan.edit(edited.diff)
  walk.refusal = null
}
function leaveEdit(): void {
  editing.value = null
  says.value = ''
  void nextTick(() => list.value?.focus())
}

const expectedOf = ({ gate }: WalkItem) => gateHere(walk.game!, walk.state!, gate!)

const routes = computed(() => (walk.game ? walk.game.routes.filter((route) => route.stops.length > 0) : []))
function beginAt(value: string): void {
  walk.begin(value === '' ? { at: 'start' } : { at: 'stop', route: check.routeKey ?? '', profile: check.profileKey ?? '', stop: Number(value) })
  void nextTick(() => list.value?.focus())
}
const starts = computed(() => {
  const stops = routes.value.find(({ key }) => key === check.routeKey)?.stops.map((p) => walk.game!.places[p]!.name) ?? []
  return [{ value: '', text: 'the start of the plan' }, ...stops.map((stop, i) => ({ value: String(i), text: `${stop}, as this kind of player arrives` }))]
})
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
  { id: 'walk-expect', title: "Walk: expect the leader's level here, or no longer", keys: 'x', run: () => walk.game?.characters.length && walk.state && walk.expectHere(levelHere(walk.game, walk.state, 0)) },
  { id: 'walk-change', title: 'Walk: change the numbers of what is chosen', shown: 'F2', run: () => edit(items.value[active.value]) },
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
  <div v-else-if="plan.records" class="walk" data-test="walk">
    <section class="here" aria-label="Here">
      <header>
        <h2 data-test="walk place">{{ walk.place?.name }}</h2>
        <span class="soft from">from <ChoiceSelect class="start" :value="walk.start.at === 'stop' ? String(walk.start.stop) : ''" :choices="starts" label="Where the walk starts" test="walk start" @choose="beginAt" /></span>
      </header>
      <p v-if="walk.walk?.broken" class="broken" role="alert" data-test="walk broken">The plan no longer bears this walk out at move {{ walk.walk.broken.index + 1 }} ({{ moveText(plan.records, walk.moves[walk.walk.broken.index]!) }}): {{ walk.walk.broken.says }}</p>
      <p v-if="refusalText" class="refusal" role="alert" data-test="walk refusal">{{ refusalText }}</p>
      <ul ref="list" tabindex="0" role="grid" aria-label="What can be done here" :aria-activedescendant="items.length ? `walk-${active}` : undefined" data-test="walk items" @keydown="onKey">
        <li v-for="(item, i) in items" :id="`walk-${i}`" :key="item.key" role="row" :aria-selected="i === active" :class="[item.kind, { active: i === active, off: !item.can && !item.done, done: item.done }]" @click="active = i" @dblclick="act(item)">
          <span class="mark" role="gridcell">{{ item.kind === 'way' ? '→' : item.kind === 'gate' ? (item.done ? '●' : '○') : '' }}</span>
          <b role="gridcell">{{ item.name }}</b>
          <span v-if="editing === item.key" role="gridcell"><input v-model="asked" class="mono" :aria-label="item.kind === 'gate' ? `What ${item.name} asks for` : `What ${item.name} gives`" data-test="asks editor" @keydown.stop @keydown.enter.prevent="takeEdit(item)" @keydown.esc.prevent="leaveEdit" @click.stop /></span>
          <span v-else role="gridcell" class="detail" :class="{ mono: item.kind === 'gate' }">{{ item.detail }}</span>
          <span role="gridcell" class="soft note">{{ item.note }}</span>
          <span role="gridcell" class="acts">
            <button v-if="item.kind === 'source'" class="quiet" :disabled="!item.can" tabindex="-1" @click.stop="act(item)">take</button>
            <button v-if="item.kind === 'source'" class="quiet" :disabled="!item.can" tabindex="-1" @click.stop="act(item, true)">all</button>
            <button v-if="item.kind === 'gate' && !item.done" class="quiet" tabindex="-1" @click.stop="act(item)">open</button>
            <button v-if="item.kind !== 'way'" class="quiet" tabindex="-1" :aria-label="item.kind === 'gate' ? `Change what ${item.name} asks for` : `Change what ${item.name} gives`" title="Change its numbers (F2)" @click.stop="edit(item)">change</button>
            <button v-if="item.kind === 'gate'" class="quiet pin" tabindex="-1" :aria-pressed="walk.isExpectedHere(expectedOf(item))" :aria-label="`Expect ${item.name} to be ${item.done ? 'open' : 'closed'} here`" :title="`Expect it to be ${item.done ? 'open' : 'closed'} here`" @click.stop="walk.expectHere(expectedOf(item))">expect</button>
            <button v-if="item.kind === 'way'" class="quiet" tabindex="-1" @click.stop="act(item)">go</button>
          </span>
        </li>
        <li v-if="!items.length" role="row" class="soft"><span role="gridcell">Nothing is here, and no way leads on.</span></li>
      </ul>
      <p v-if="says" class="refusal" role="alert">{{ says }}</p>
      <StagePath />
      <footer class="soft"><span><kbd>Enter</kbd> does it,</span> <span><kbd>Shift+Enter</kbd> takes all,</span> <span><kbd>Backspace</kbd> takes a move back,</span> <span><kbd>w</kbd> takes all main and goes on{{ nextStop ? ` to ${nextStop}` : '' }}</span>
        <button class="act plain" data-test="walk on route" @click="walkOn">Walk on</button></footer>
    </section>
    <WalkHeld />
    <aside class="side">
      <KeptWalks />
      <WalkLog />
    </aside>
  </div>
</template>

<style scoped>
.walk { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 290px 310px; grid-template-rows: minmax(0, 1fr); min-height: 0; min-width: 0; }
section { min-height: 0; overflow: auto; padding: 10px 14px; }
.nowhere { margin: 80px auto; max-width: 520px; padding: 0 20px; }
.here { display: flex; flex-direction: column; }
.side { border-left: 1px solid var(--line); display: flex; flex-direction: column; min-height: 0; }
.pin[aria-pressed='true'] { background: var(--select); color: var(--ink); font-weight: 600; }
header { align-items: baseline; display: flex; flex-wrap: wrap; gap: 4px 16px; justify-content: space-between; }
h2 { font-size: 18px; margin: 0; }
.from { align-items: center; display: flex; gap: 6px; }
.start { width: 270px; }
input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 3px 6px; }
ul { flex: 1; list-style: none; margin: 8px 0; min-height: 80px; overflow: auto; padding: 2px; }
li[role='row'] { align-items: center; border-bottom: 1px solid var(--line); cursor: default; display: grid; gap: 0 8px; grid-template-columns: 16px minmax(110px, 1.1fr) minmax(0, 1.3fr) minmax(0, 0.9fr) 176px; padding: 4px 6px; }
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
</style>
