<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import type { GateResult, Quantiles } from '../../../core/check/result.ts'
import type { ReadExplanation } from '../../../core/check/route/explain.ts'
import { inOrder, type Records, type Row } from '../../../core/plan/records.ts'
import { numberText, percentText, shortMarginText, shortNumberText } from '../../../core/view/numbers.ts'
import { conditionText, debtText, namesOf, playerReads, readySentence, shortText, sumsOf, type Sum, verdictSentence, xpShort } from '../../../core/view/why.ts'
import { turnText } from '../../../core/view/turns.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useTurnedStore } from '../../stores/turned.ts'
import GateSum from './GateSum.vue'

/** Why a gate has its verdict: what it asks for against what is there, and the sum that a designer would do by hand. */
const props = defineProps<{ records: Records; gate: Row<'gate'>; result: GateResult }>()

const check = useCheckStore()
/** A sum with more lines than this is shown by place, until all lines are asked for. */
const readable = 10
const whole = ref(false)
const explanation = shallowRef<ReadExplanation | null>(null)
const sums = shallowRef<readonly Sum[]>([])

/** Whoever types on, or steps through the gates, does not wait for sums in between. */
const explain = useDebounceFn(async () => {
  // New verdicts are on their way: this is asked for again when they are there, or take long.
  if (check.isStale && check.progress === null) return
  const { key } = props.gate
  const found = await check.explain(key, whole.value ? Infinity : readable)
  if (!found || key !== props.gate.key) return
  explanation.value = found
  // What they say of names is made anew with the verdicts: it is not, and not drawn again either, with each edit before.
  sums.value = sumsOf(found, names.value, placeAt)
}, 120)
watch([() => check.view, () => check.progress !== null, () => props.gate.key, whole], () => void explain(), { immediate: true })
watch(() => props.gate.key, () => {
  explanation.value = null
  sums.value = []
})

const turned = useTurnedStore()
const turn = computed(() => turned.byGate.get(props.gate.id))
const names = computed(() => namesOf(props.records))
const placeAt = (stop: number) => names.value.place(check.view?.result?.stops[stop]?.place ?? '')
const isRandom = computed(() => props.result.comparisons.some((c) => c.has && c.has.min !== c.has.max))
const leader = computed(() => inOrder(props.records, 'character')[0]?.id ?? null)
const short = computed(() => (explanation.value ? props.result.comparisons.map((c) => xpShort(props.records, c, leader.value, explanation.value!)).find((found) => found !== null) : null))
/** There is room for short numbers; the whole one is told to who asks. */
const written = (n: number | null | undefined, text: (n: number) => string) => (n === null || n === undefined ? '–' : text(n))
const exact = (n: number | null | undefined) => (n === null || n === undefined ? undefined : numberText(n))
const spreadText = ({ q05, q95 }: Quantiles) => `9 in 10 have ${q05 === q95 ? numberText(q05) : `${numberText(q05)} to ${numberText(q95)}`}`
const conditions = computed(() => explanation.value?.conditions ?? [])
const lost = computed(() => explanation.value?.lost ?? [])
const debts = computed(() => explanation.value?.debt ?? [])
const alone = computed(() => debts.value.length > 0 && debts.value[0]!.mends === undefined)
</script>

<template>
  <section class="why" data-test="why">
    <p class="sentence" :class="`verdict-${result.verdict}`" data-test="sentence">{{ verdictSentence(result, gate.due, names) }}</p>
    <p v-if="turn" class="soft" data-test="turn">With the last change: {{ turnText(turn) }}.</p>
    <p v-if="readySentence(result, placeAt)" class="soft">{{ readySentence(result, placeAt) }}</p>
    <table v-if="result.comparisons.length || conditions.length" class="asks">
      <thead><tr><th>asks for</th><th class="num">has</th><th class="num">needs</th><th class="num">margin</th></tr></thead>
      <tbody>
        <template v-for="(comparison, i) in result.comparisons" :key="i">
          <tr :class="comparison.holds === 1 ? '' : 'unmet'">
            <td class="mono">{{ comparison.text }}</td>
            <td class="num" :title="exact(comparison.has?.median)">{{ written(comparison.has?.median, shortNumberText) }}</td>
            <td class="num" :title="exact(comparison.need)">{{ written(comparison.need, shortNumberText) }}</td>
            <td class="num" :title="exact(comparison.margin)"><b>{{ written(comparison.margin, shortMarginText) }}</b></td>
          </tr>
          <tr v-if="isRandom && comparison.has" class="soft range"><td colspan="4">{{ spreadText(comparison.has) }}; holds for {{ percentText(comparison.holds, result.exact || comparison.slack !== null) }}</td></tr>
        </template>
        <tr v-for="condition in conditions" :key="condition.text" :class="condition.holds || result.verdict === 'clear' ? '' : 'unmet'" :title="isRandom ? 'In the middle walk' : undefined" data-test="condition">
          <td class="mono">{{ condition.text }}</td><td colspan="3" class="num">{{ conditionText(condition, check.gate, placeAt) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="short" class="unmet" data-test="short by"><b>{{ shortText(short) }}</b></p>
    <GateSum
      v-for="sum in sums" :key="sum.tally" :sum="sum" :name="names.tally(sum.tally)" :is-random="isRandom" :is-long="sum.count > readable" :is-whole="whole"
      @turn="whole = !whole"
    />
    <div v-if="lost.length" class="sum">
      <b>XP lost</b>
      <table><tbody><tr v-for="(loss, i) in lost" :key="i"><td>{{ loss.source ? names.source(loss.source) : loss.gate ? names.gate(loss.gate) : placeAt(loss.stop) }}, {{ loss.why === 'top' ? 'at the level limit' : 'cleared at a level-up' }}</td><td class="num">{{ numberText(loss.amount) }}</td></tr></tbody></table>
    </div>
    <div v-if="debts.length" class="debt">
      <b>{{ alone ? 'What alone would open it' : 'No one source opens it; the best for each part' }}</b>
      <ul><li v-for="debt in debts" :key="debt.source + debt.mends">{{ debtText(debt, names) }}<span v-if="debt.mends" class="mono soft"> for {{ debt.mends }}</span></li></ul>
    </div>
    <p v-if="gate.lockedText" class="soft">The player reads: “{{ playerReads(gate, result) }}”</p>
  </section>
</template>

<style scoped>
.why { display: grid; gap: 10px; }
.why p { margin: 0; }
.sentence { font-weight: 600; }
table { border-collapse: collapse; width: 100%; font-size: 12px; }
th { color: var(--soft); font-weight: 400; text-align: left; }
th.num { text-align: right; }
td { padding: 1px 0; vertical-align: top; }
td.num { padding-left: 8px; white-space: nowrap; }
.asks td.mono { font-size: 11.5px; min-width: 84px; overflow-wrap: anywhere; }
.unmet, .unmet td { color: var(--short); }
.range td { font-size: 11px; padding-bottom: 4px; }
ul { margin: 2px 0 0; padding-left: 16px; font-size: 12px; }
</style>
