<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Row } from '../../../core/plan/records.ts'
import { countText } from '../../../core/view/numbers.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'

/** The walks that the plan keeps: whether it still bears them out, at which move it does not, and why. */
const plan = usePlanStore()
const check = useCheckStore()
const walk = useWalkStore()

const kept = computed(() => (plan.records ? inOrder(plan.records, 'walk').map((row) => ({ row, result: check.walks.get(row.id) })) : []))
const red = computed(() => kept.value.filter(({ result }) => result && !result.holds).length)

const name = ref('')
const suggested = computed(() => `To ${walk.place?.name ?? 'here'}`)
watch(() => walk.kept, (row) => (name.value = row?.name ?? ''))
function keep(): void {
  walk.keep(name.value.trim() || suggested.value)
}
function open(row: Row<'walk'>): void {
  walk.open(row)
}
</script>

<template>
  <section class="kept" aria-label="Kept walks" data-test="kept walks">
    <h3>Kept walks <span v-if="kept.length" class="soft">{{ red ? `${red} of ${kept.length} not borne out` : `all ${kept.length} hold` }}</span></h3>
    <ul v-if="kept.length">
      <li v-for="{ row, result } in kept" :key="row.key" :class="{ fails: result && !result.holds, here: walk.kept?.key === row.key }" data-test="kept walk">
        <b aria-hidden="true">{{ !result ? '·' : result.holds ? '✓' : '✗' }}</b>
        <button class="link" :title="`Walk it: ${countText(row.steps.length, 'step')}`" @click="open(row)">{{ labelOf(row) }}</button>
        <button class="quiet" :aria-label="`Delete the walk ${labelOf(row)}`" title="Delete it; undo brings it back" @click="walk.remove(row)">×</button>
        <p v-for="fault in result?.faults.slice(0, 3)" :key="fault.step" class="fault">after {{ countText(fault.moves, 'move') }}: {{ fault.says }}</p>
        <p v-if="result && result.faults.length > 3" class="fault">and {{ result.faults.length - 3 }} more</p>
      </li>
    </ul>
    <p v-else class="soft">A walk that is kept is played again after every change of the plan, and says where it no longer goes. Expect a level, an amount or a gate where it matters, then keep it.</p>
    <form @submit.prevent="keep">
      <input v-model="name" :placeholder="suggested" aria-label="Name of the walk" data-test="walk name" @keydown.stop>
      <button class="quiet" :disabled="!walk.isChanged && (!walk.kept || walk.kept.name === name)" data-test="keep walk">{{ walk.kept ? 'Keep changes' : 'Keep' }}</button>
    </form>
  </section>
</template>

<style scoped>
.kept { border-bottom: 1px solid var(--line); display: flex; flex: none; flex-direction: column; max-height: 45%; min-height: 0; padding: 10px 14px; }
h3 { align-items: baseline; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 6px; }
h3 .soft { font-size: 12px; font-weight: 400; }
ul { list-style: none; margin: 0 0 8px; min-height: 0; overflow: auto; padding: 0; }
li { align-items: baseline; border-radius: 4px; display: grid; gap: 0 6px; grid-template-columns: 14px minmax(0, 1fr) auto; padding: 2px 4px; }
li.here { background: var(--mark); }
li > b { color: var(--clear); }
.fails > b, .fault { color: var(--short); }
.link { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 13px; padding: 0; text-align: left; }
li .quiet { padding: 0 6px; }
.fault { font-size: 12px; grid-column: 2 / -1; margin: 0; overflow-wrap: anywhere; }
p { font-size: 12px; margin: 0 0 8px; }
form { display: flex; flex: none; gap: 6px; }
input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); flex: 1; font-size: 13px; min-width: 0; padding: 3px 6px; }
form .quiet { border-color: var(--line); }
</style>
