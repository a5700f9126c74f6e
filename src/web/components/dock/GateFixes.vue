<script setup lang="ts">
import { computed, onUnmounted, watch } from 'vue'
import type { Fix } from '../../../core/check/fixes/fix.ts'
import { isTrouble, type GateResult } from '../../../core/check/result.ts'
import { addRecord, freeId } from '../../../core/change/edits.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { byId, inOrder, type Records, type Row } from '../../../core/plan/records.ts'
import { walkToGate } from '../../../core/play/walk-of-route.ts'
import { compile } from '../../../core/rules/compile.ts'
import { verdictOrder, verdictWords } from '../../../core/view/verdict-text.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useFixesStore } from '../../stores/fixes.ts'
import { newKey } from '../../new-key.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** Changes that make the gate clear, each tried, with every other verdict that it would alter; taken with one click. */
const props = defineProps<{ records: Records; gate: Row<'gate'>; result: GateResult }>()
const plan = usePlanStore()
const check = useCheckStore()
const fixes = useFixesStore()

watch([() => props.gate.key, () => check.view, () => check.areAllKnown], () => void fixes.look(props.gate.key, props.result), { immediate: true })
onUnmounted(() => fixes.stop())

const own = computed(() => (fixes.gateKey === props.gate.key ? fixes.fixes : []))
const taken = computed(() => (fixes.taken?.gate === props.gate.key && plan.undoName === fixes.taken.fix.diff.name ? fixes.taken.fix : null))
const profileOf = computed(() => byId(props.records, 'profile', check.profiles.find((row) => row.key === check.profileKey)?.id ?? ''))

/** What a fix alters beside the gate itself, for one line each: alike for several kinds of player as one. */
function besides(fix: Fix): { text: string; worse: boolean }[] {
  const lines = new Map<string, { who: Set<string>; worse: boolean }>()
  for (const { gate, profile, before, after } of fix.alters) {
    const isSelf = gate === props.gate.id
    if (isSelf && profile === profileOf.value?.id) continue
    const name = byId(props.records, 'gate', gate)?.name || gate
    const text = isSelf && after === 'clear' ? 'clears it for others too' : `${isSelf ? 'this gate' : name}: ${verdictWords[before].one} → ${verdictWords[after].one}`
    const line = lines.get(text) ?? { who: new Set<string>(), worse: verdictOrder.indexOf(after) > verdictOrder.indexOf(before) }
    line.who.add(byId(props.records, 'profile', profile)?.name || profile)
    lines.set(text, line)
  }
  const all = [...lines].map(([text, { who, worse }]) => ({ text: `${text} (${[...who].join(', ')})`, worse }))
  // What gets worse is read first.
  return [...all.filter(({ worse }) => worse), ...all.filter(({ worse }) => !worse)]
}
/** A walk of this kind of player to where the gate is due, which holds once the gate opens: red before a fix, green after it. */
const keptName = computed(() => `${labelOf(props.gate)}, ${profileOf.value?.name || profileOf.value?.id || ''}`)
const isKept = computed(() => inOrder(props.records, 'walk').some((row) => row.name === keptName.value))
function keepWalk(): void {
  const { game } = compile(props.records)
  const route = game.routes.find(({ key }) => key === check.routeKey)
  const profile = game.profiles.find(({ key }) => key === check.profileKey)
  const g = game.gates.findIndex(({ key }) => key === props.gate.key)
  if (!route || !profile || g < 0 || !props.result.due) return
  const walk = { id: freeId(props.records, 'walk', keptName.value), name: keptName.value, ...walkToGate(game, route, profile, g, props.result.due.stop) }
  plan.edit({ ...addRecord(props.records, 'walk', newKey(), walk), name: `keep the walk ${keptName.value}` })
}
const sentence = (says: string) => says.charAt(0).toUpperCase() + says.slice(1)
</script>

<template>
  <section v-if="isTrouble(result.verdict) || taken" class="fixes" data-test="fixes">
    <p v-if="taken" class="taken" role="status">Done: {{ taken.says }}. <button class="quiet" @click="plan.undo()">Undo</button></p>
    <template v-if="isTrouble(result.verdict)">
      <h3>What would make it clear <span v-if="fixes.isLooking || !check.areAllKnown" class="soft">looking … <button v-if="fixes.isLooking" class="quiet" @click="fixes.stop()">Stop</button></span></h3>
      <ul>
        <li v-for="(fix, i) in own" :key="i">
          <div class="what">{{ sentence(fix.says) }}</div>
          <button class="quiet apply" :aria-label="`Apply: ${fix.says}`" @click="fixes.apply(fix)">Apply</button>
          <div class="alters soft">
            <span v-for="line in besides(fix).slice(0, 6)" :key="line.text" :class="{ worse: line.worse }">{{ line.worse ? '▾' : '▴' }} {{ line.text }}</span>
            <span v-if="besides(fix).length > 6">and {{ besides(fix).length - 6 }} more</span>
            <span v-if="!besides(fix).length">alters nothing else</span>
          </div>
        </li>
      </ul>
      <p v-if="result.due" class="soft keep"><template v-if="isKept">The walk to it is kept: <RouterLink :to="{ name: 'walk', params: $route.params }">see it in Walk</RouterLink>.</template><button v-else class="quiet" title="Kept in the plan: red until the gate opens when it is due, green from then on" data-test="keep walk to gate" @click="keepWalk">Keep the walk to it as a test</button></p>
      <p v-if="!own.length && !fixes.isLooking && check.areAllKnown" class="soft">No change of one number, place or curve makes it clear.</p>
    </template>
  </section>
</template>

<style scoped>
.fixes { margin-top: 14px; }
h3 { align-items: baseline; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 6px; }
h3 .soft { font-size: 12px; font-weight: 400; }
h3 .quiet { border-color: var(--line); font-size: 12px; padding: 2px 6px; }
ul { display: grid; gap: 6px; list-style: none; margin: 0; padding: 0; }
li { background: var(--panel); border-radius: 4px; display: grid; grid-template-columns: minmax(0, 1fr) auto; padding: 6px 6px 6px 8px; }
.what { font-weight: 600; overflow-wrap: anywhere; }
.apply { align-self: start; color: var(--accent); font-weight: 600; }
.alters { display: grid; font-size: 12px; grid-column: 1 / -1; }
.worse { color: var(--short); }
p { margin: 0 0 6px; }
.keep { margin-top: 6px; }
.keep .quiet { border-color: var(--line); font-size: 12px; }
.taken { background: var(--select); border-radius: 4px; padding: 6px 8px; }
.taken .quiet { color: var(--accent); font-weight: 600; }
</style>
