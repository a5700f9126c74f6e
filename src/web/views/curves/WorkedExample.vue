<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Records, Row } from '../../../core/plan/records.ts'
import { benchOfCurve } from '../../../core/view/bench.ts'
import { curveSteps } from '../../../core/view/curve-table.ts'
import { numberText, typedNumber } from '../../../core/view/numbers.ts'

/** What the options of a curve do, on one gain: its numbers can be changed. */
const props = defineProps<{ records: Records; curve: Row<'curve'> }>()
const gain = ref('')
const level = ref('')
const xp = ref('')

/** A gain worth a level and a half, a little into a level: enough to see what carries over. */
function suggest(): void {
  const steps = curveSteps(props.curve)
  const step = steps[Math.min(2, steps.length - 1)]
  if (!step) return
  level.value = String(step.from)
  xp.value = String(Math.round(step.step * 0.2))
  gain.value = String(Math.round(step.step * 1.7))
}
watch(() => props.curve.key, suggest, { immediate: true })

const told = computed(() => {
  const [g, l, x] = [gain.value, level.value, xp.value].map(typedNumber)
  if (![g, l, x].every((n) => Number.isFinite(n) && n! >= 0)) return 'numbers, 0 or more, are needed'
  const bench = benchOfCurve(props.records, props.curve, { level: Math.round(l!), xp: x! })
  if (!bench) return 'the curve is in error'
  const { after, lost } = bench.gain(g!)
  const left = after.needed === null && after.xp === 0 ? 'at the top' : `${numberText(after.xp)} XP ${after.needed === null ? 'kept at the top' : 'left'}`
  return `level ${after.level}, ${left}, ${lost > 0 ? `${numberText(lost)} lost` : 'nothing lost'}`
})
</script>

<template>
  <p class="example" data-test="example">
    A gain of <input v-model="gain" aria-label="Gain" inputmode="decimal" data-test="example gain" /> at level <input v-model="level" aria-label="Level" inputmode="numeric" /> with <input v-model="xp" aria-label="XP into the level" inputmode="decimal" /> XP: <b>{{ told }}</b>.
  </p>
</template>

<style scoped>
.example { background: var(--panel); border-radius: 4px; margin: 6px 0; padding: 5px 10px; }
input { background: var(--raised); border: 1px solid var(--line); border-radius: 3px; color: var(--ink); font-size: 13px; padding: 1px 4px; text-align: right; width: 58px; }
</style>
