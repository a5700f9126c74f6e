<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { setFields } from '../../../core/change/edits.ts'
import { positionAt, type Fit, type FitKind } from '../../../core/change/fit-curve.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records, type Row } from '../../../core/plan/records.ts'
import { marginText, numberText, typedNumber } from '../../../core/view/numbers.ts'
import ChoiceSelect from '../../components/ChoiceSelect.vue'
import { usePlanStore } from '../../stores/plan.ts'
import type { ProfileView } from '../../workers/check.worker.ts'
import { LongSearch } from '../../workers/long-search.ts'

/** Levels wanted at points of the route: the numbers of the rule that come closest, how far each point is missed, and its taking. */
const props = defineProps<{ records: Records; curve: Row<'curve'>; character: Row<'character'>; everyone: ProfileView[]; profileKey: string | null }>()
const emit = defineEmits<{ shown: [fit: Fit | null] }>()
const plan = usePlanStore()

const kind = ref<FitKind>('growth')
const points = ref<{ stop: number; level: number }[]>([])
const stop = ref(0)
const level = ref('')
const fit = shallowRef<Fit | null>(null)
const state = ref<'idle' | 'looking' | 'none'>('idle')
const search = new LongSearch()

const profile = computed(() => props.everyone.find((one) => one.key === props.profileKey) ?? props.everyone[0])
const names = computed(() => new Map(inOrder(props.records, 'place').map((place) => [place.id, labelOf(place)])))
const stops = computed(() => (profile.value?.stops ?? []).map((one, i) => ({ i, name: names.value.get(one.place) ?? one.place, xp: one.tallies[props.character.experience]?.median ?? 0, level: one.levels[props.character.id]?.median ?? 0 })))
const wanted = computed(() => points.value.flatMap((point) => (stops.value[point.stop] ? [{ ...point, xp: stops.value[point.stop]!.xp, name: stops.value[point.stop]!.name }] : [])).sort((a, b) => a.stop - b.stop))
const now = computed(() => wanted.value.map((point) => positionAt(props.curve, point.xp)))

function add(): void {
  const n = typedNumber(level.value)
  if (!Number.isFinite(n) || n <= props.curve.firstLevel || n > props.curve.maxLevel) return
  points.value = [...points.value.filter((point) => point.stop !== stop.value), { stop: stop.value, level: n }]
  level.value = ''
  stop.value = Math.min(stop.value + 1, stops.value.length - 1)
}

watch([wanted, kind, () => props.curve], async () => {
  fit.value = null
  emit('shown', null)
  search.end()
  if (wanted.value.length === 0) return void (state.value = 'idle')
  state.value = 'looking'
  const asked = wanted.value.map((point) => ({ xp: point.xp, level: point.level }))
  const found = await search.ask((remote) => remote.fit({ ...props.curve }, asked, kind.value))
  if (JSON.stringify(asked) !== JSON.stringify(wanted.value.map((point) => ({ xp: point.xp, level: point.level })))) return
  state.value = found ? 'idle' : 'none'
  fit.value = found
  emit('shown', found)
})

function take(): void {
  if (!fit.value) return
  plan.edit(setFields(props.records, 'curve', props.curve.key, { rule: fit.value.rule }, `fit ${labelOf(props.curve)} to ${wanted.value.length} levels`))
  points.value = []
}

const ruleText = computed(() => {
  const rule = fit.value?.rule
  if (!rule) return ''
  return rule.kind === 'growth' ? `base ${rule.base}, each × ${rule.factor}, plus ${rule.add}` : rule.kind === 'formula' ? rule.text : `a table of ${rule.values.length} values`
})
</script>

<template>
  <details class="fit" data-test="fit">
    <summary>Fit {{ curve.name }} to wanted levels</summary>
    <form class="add" @submit.prevent="add">
      <div class="stop">On leaving <ChoiceSelect :value="String(stop)" :choices="stops.map((one) => ({ value: String(one.i), text: `${one.name} (level ${numberText(one.level)} now)` }))" label="On leaving" test="fit stop" @choose="(i) => (stop = Number(i))" /></div>
      <label>level <input v-model="level" class="num" inputmode="decimal" data-test="fit level" /></label>
      <button class="act plain" data-test="fit add">Add</button>
      <label>by <select v-model="kind" data-test="fit kind"><option value="growth">a growth</option><option value="formula" :disabled="curve.rule.kind !== 'formula'">the numbers of the formula</option><option value="table">a table</option></select></label>
    </form>
    <p class="soft">{{ labelOf(character) }}, {{ profile?.name ?? 'no kind of player' }}. XP is the median of what such a player has there.</p>
    <table v-if="wanted.length">
      <thead><tr><th>on leaving</th><th class="num">XP</th><th class="num">wanted</th><th class="num">now</th><th class="num">then</th><th class="num">missed by</th><th /></tr></thead>
      <tbody>
        <tr v-for="(point, i) in wanted" :key="point.stop">
          <td>{{ point.name }}</td><td class="num">{{ numberText(point.xp) }}</td><td class="num">{{ numberText(point.level) }}</td><td class="num">{{ now[i]!.toFixed(2) }}</td>
          <td class="num">{{ fit?.points[i] ? fit.points[i]!.position.toFixed(2) : '' }}</td><td class="num">{{ fit?.points[i] ? marginText(Math.round(fit.points[i]!.miss * 100) / 100) : '' }}</td>
          <td><button class="quiet" :aria-label="`Leave out ${point.name}`" @click="points = points.filter((other) => other.stop !== point.stop)">×</button></td>
        </tr>
      </tbody>
    </table>
    <p v-if="state === 'looking'" class="soft">looking for the numbers … <button class="quiet" @click="search.end(); state = 'idle'">Stop</button></p>
    <p v-else-if="state === 'none'" class="wrong" role="alert">No {{ kind }} can be made that goes there.</p>
    <p v-else-if="fit" data-test="fit rule"><b>{{ ruleText }}</b> <button class="act" data-test="fit take" @click="take">Take it</button></p>
  </details>
</template>

<style scoped>
.fit { border: 1px solid var(--line); border-radius: 6px; flex: none; margin: 8px 0; max-height: 46%; overflow: auto; padding: 6px 10px; }
summary { cursor: pointer; font-weight: 600; }
.add { align-items: end; display: flex; flex-wrap: wrap; gap: 6px 12px; margin-top: 6px; }
select, input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 3px 6px; }
input { width: 60px; }
.stop { align-items: center; display: flex; gap: 4px; }
.stop .choice { width: 240px; }
.act { padding: 4px 10px; }
p { margin: 6px 0; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
th { color: var(--soft); font-weight: 400; text-align: left; }
th.num { text-align: right; }
td { border-top: 1px solid var(--line); padding: 1px 6px; }
td.num { white-space: nowrap; }
.wrong { color: var(--short); }
</style>
