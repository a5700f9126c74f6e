<script setup lang="ts">
import { rollup } from 'd3-array'
import { computed } from 'vue'
import type { GateResult } from '../../../core/check/result.ts'
import { routeOfAllPlaces, usualPlayers } from '../../../core/change/what-is-checked.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { keysOf } from '../../../core/plan/records.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import { verdictOrder, verdictShort, verdictWords } from '../../../core/view/verdict-text.ts'
import VerdictMark from '../../components/VerdictMark.vue'
import { vLentFocus } from '../../lent-focus.ts'
import { newKey } from '../../new-key.ts'
import { sameEach, stable } from '../../stable.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'

const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()
defineEmits<{ next: [] }>()

/** With more gates than there is room for, only those in trouble have a tick. */
const roomFor = 90
const met = computed(() => check.gatesInAll.filter(({ verdict }) => verdict !== 'off_route'))
const ticks = stable(() => {
  const shown = met.value.length > roomFor ? met.value.filter(({ verdict }) => verdict !== 'clear') : met.value
  const at = ({ met, due }: GateResult) => met?.stop ?? due?.stop ?? 0
  const keys = plan.records ? keysOf(plan.records, 'gate') : null
  const inOrder = [...shown].sort((a, b) => at(a) - at(b)).slice(0, roomFor)
  return inOrder.flatMap((result) => {
    const gate = plan.records?.gate.get(keys?.get(result.gate) ?? '')
    return gate ? [{ gate, result }] : []
  })
}, sameEach)
const counts = stable(() => {
  const counted = rollup(check.gatesInAll, (gates) => gates.length, ({ verdict }) => verdict)
  return verdictOrder.flatMap((verdict) => {
    const n = counted.get(verdict) ?? 0
    return n ? [{ verdict, n, word: n === 1 ? verdictWords[verdict].one : verdictWords[verdict].many }] : []
  })
}, sameEach)
/** Why no gate is checked, and what mends it; null: they are, or there is nothing to go through yet. */
const missing = computed(() => {
  const { records } = plan
  if (!records || records.place.size === 0) return null
  const route = check.routes.find(({ key }) => key === check.routeKey)
  const goThroughAll = () => plan.edit(routeOfAllPlaces(records, route?.key ?? null, newKey))
  if (!route) return { says: 'There is no route, so no gate is checked.', act: 'Make one through all places', mend: goThroughAll }
  if (route.stops.length === 0) return { says: 'This route has no stops, so no gate is checked.', act: 'Let it go through all places', mend: goThroughAll }
  if (check.profiles.length === 0) return { says: 'There is no kind of player, so no gate is checked.', act: 'Add the usual three', mend: () => plan.edit(usualPlayers(records, newKey)) }
  return null
})
const issues = computed(() => check.view?.issues.length ?? 0)
</script>

<template>
  <div class="strip">
    <select v-if="check.routes.length" v-model="check.routeKey" v-lent-focus aria-label="Route" data-test="route">
      <option v-for="route in check.routes" :key="route.key" :value="route.key">{{ labelOf(route) }}</option>
    </select>
    <select v-if="check.profiles.length" v-model="check.profileKey" v-lent-focus aria-label="Kind of player" data-test="profile">
      <option v-for="profile in check.profiles" :key="profile.key" :value="profile.key">{{ labelOf(profile) }} player</option>
    </select>
    <button v-if="check.profiles.length" class="quiet all" :class="{ on: check.showsEveryone }" :aria-pressed="check.showsEveryone" title="All kinds of player at once (a)" data-test="everyone" @click="check.showsEveryone = !check.showsEveryone">all</button>
    <p v-if="missing" class="missing" role="status" data-test="nothing checked">{{ missing.says }} <button class="act plain" @click="missing.mend()">{{ missing.act }}</button></p>
    <div class="ticks" role="group" aria-label="Gates in route order">
      <button
        v-for="{ gate, result } in ticks" :key="gate.key" class="tick" :class="{ chosen: selection.chosen?.key === gate.key }"
        :title="`${labelOf(gate)}: ${verdictWords[result.verdict].one}, ${verdictShort(result)}`" :aria-label="`${labelOf(gate)}: ${verdictWords[result.verdict].one}`"
        @click="selection.choose('gate', gate.key)"
      >
        <svg width="11" height="22" viewBox="-5.5 -5.5 11 22" aria-hidden="true"><VerdictMark :verdict="result.verdict" :tall="15" /></svg>
      </button>
      <span v-if="met.length > roomFor" class="soft rest">{{ ticks.length === 0 ? 'all gates are clear' : 'clear gates are not drawn' }}</span>
    </div>
    <span v-if="check.progress !== null" class="soft" role="status">{{ check.isRough ? 'a first look, drawing more' : 'checking' }} … {{ Math.round(check.progress * 100) }} %</span>
    <span class="counts" data-test="counts">
      <b v-for="count in counts" :key="count.verdict" :class="`verdict-${count.verdict}`">{{ numberText(count.n) }} {{ count.word }}</b>
      <b v-if="issues" class="verdict-short">{{ countText(issues, 'error') }} in the plan</b>
    </span>
    <button class="quiet soft" title="Next finding (n); the one before with p" @click="$emit('next')">next trouble <kbd>n</kbd></button>
  </div>
</template>

<style scoped>
.strip { align-items: center; background: var(--panel); border-bottom: 1px solid var(--line); display: flex; flex: none; gap: 10px; min-height: 38px; padding: 0 14px; }
select { background: transparent; border: 1px solid transparent; border-radius: 4px; color: var(--ink); font-size: 13px; font-weight: 600; padding: 4px 2px; }
select:hover { border-color: var(--line); }
option { background: var(--raised); color: var(--ink); }
.missing { margin: 0; white-space: nowrap; }
.missing .act { margin-left: 6px; padding: 3px 10px; }
.ticks { display: flex; flex: 1; flex-wrap: wrap; min-width: 0; overflow: hidden; max-height: 50px; }
.tick { background: none; border: 0; border-radius: 3px; cursor: pointer; line-height: 0; padding: 2px 1px; }
.tick:hover, .tick.chosen { background: var(--select); }
.all.on { background: var(--select); color: var(--ink); font-weight: 600; }
.rest { align-self: center; margin-left: 8px; }
.counts { display: flex; gap: 12px; white-space: nowrap; }
kbd { font-family: var(--mono); font-size: 11px; }
</style>
