<script setup lang="ts">
import { computed, ref } from 'vue'
import { bulkFields, bulkOperations, changeNumbers, moveAll, setRoles, type BulkFieldName, type BulkOperation } from '../../../core/change/bulk.ts'
import { isEmpty, type Diff } from '../../../core/change/diff.ts'
import { shapeFault } from '../../../core/change/shape.ts'
import { inOrder, type ItemRow, type Records } from '../../../core/plan/records.ts'
import { countText, typedNumber } from '../../../core/view/numbers.ts'
import ChoiceSelect from '../../components/ChoiceSelect.vue'
import { choicesOf } from '../../components/choices.ts'
import TurnsText from '../../components/TurnsText.vue'
import { usePlanStore } from '../../stores/plan.ts'
import { usePreview } from '../../use-preview.ts'

/** What can be done with several rows at once; what it would alter is shown before it is done. */
const props = defineProps<{ records: Records; items: ItemRow[]; rows: number }>()
const emit = defineEmits<{ copy: []; remove: []; leave: [] }>()
const plan = usePlanStore()

const operation = ref<BulkOperation | 'role' | 'move'>('scale')
const field = ref<BulkFieldName>(props.items.every(({ kind }) => kind === 'gate') ? 'thresholds' : 'amounts')
const by = ref('')
const role = ref<'main' | 'side'>('side')
const placeKey = ref('')
const places = computed(() => [{ value: '', text: 'choose a place …' }, ...choicesOf(inOrder(props.records, 'place'), ({ key }) => key)])
const first = ref<HTMLSelectElement>()

const isNumbers = computed(() => operation.value in bulkOperations)
const diff = computed((): Diff | null => {
  if (operation.value === 'role') return setRoles(props.items, role.value)
  if (operation.value === 'move') {
    const place = props.records.place.get(placeKey.value)
    return place ? moveAll(props.records, props.items, place) : null
  }
  const n = typedNumber(by.value)
  return Number.isFinite(n) ? changeNumbers(props.records, props.items, field.value, operation.value, n) : null
})
const says = computed(() => {
  if (isNumbers.value && by.value.trim() !== '' && !diff.value) return 'a number is needed'
  return diff.value && isEmpty(diff.value) ? 'that changes nothing' : (fault.value ?? '')
})
const fault = computed(() => diff.value && shapeFault(props.records, diff.value))
const isReady = computed(() => diff.value !== null && !isEmpty(diff.value) && fault.value === null)

const turns = usePreview(() => (isReady.value ? diff.value : null))

function apply(): void {
  if (!isReady.value) return
  plan.edit(diff.value!)
  by.value = ''
}

defineExpose({ focus: () => first.value?.focus() })
</script>

<template>
  <form class="bar" aria-label="The chosen rows" data-test="selection" @submit.prevent="apply" @keydown.esc.stop.prevent="emit('leave')">
    <b>{{ countText(rows, 'row') }}</b>
    <select ref="first" v-model="operation" aria-label="What to do" data-test="bulk operation">
      <option v-for="(entry, id) in bulkOperations" :key="id" :value="id">{{ entry.verb }} {{ entry.sign }}</option>
      <option value="role">main or side</option>
      <option value="move">move to</option>
    </select>
    <template v-if="isNumbers">
      <select v-model="field" aria-label="Which numbers" data-test="bulk field">
        <option v-for="(entry, id) in bulkFields" :key="id" :value="id">{{ entry.word }}</option>
      </select>
      <input v-model="by" class="num" aria-label="By how much" data-test="bulk number" inputmode="decimal" :placeholder="operation === 'scale' ? '1.1' : '5'" />
    </template>
    <select v-else-if="operation === 'role'" v-model="role" aria-label="Role"><option>main</option><option>side</option></select>
    <ChoiceSelect v-else class="places" :value="placeKey" :choices="places" label="Place" test="bulk place" @choose="(key) => (placeKey = key)" />
    <button class="act" :disabled="!isReady" data-test="bulk apply">Apply</button>
    <span class="told" aria-live="polite"><span v-if="says" class="soft">{{ says }}</span><TurnsText v-else-if="diff" :turns="turns" /></span>
    <button type="button" class="quiet" title="Copy as a table (Ctrl+C)" @click="emit('copy')">Copy</button>
    <button type="button" class="quiet" title="Delete (Del)" @click="emit('remove')">Delete</button>
    <button type="button" class="quiet" aria-label="Choose only one row again" title="Esc" @click="emit('leave')">×</button>
  </form>
</template>

<style scoped>
.bar { align-items: center; background: var(--select); border-top: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; gap: 4px 8px; padding: 5px 10px; }
select, input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 3px 6px; }
input { width: 64px; }
.places { width: 220px; }
.act { padding: 4px 10px; }
.act:disabled { opacity: 0.45; }
.told { flex: 1; font-size: 12px; min-width: 120px; }
</style>
