<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { plainTally, type TallyKind } from '../../../core/change/missing-tally.ts'
import { pastedText, pasteRows } from '../../../core/change/paste-rows.ts'
import type { Spot } from '../../../core/change/edits.ts'
import type { EntryContext } from '../../../core/exchange/entry-line.ts'
import { isItem, namedTallies, pasteSummary, readRows, readTable, type Pasted, type PastedTable } from '../../../core/exchange/paste.ts'
import { placesToCome, withTallies } from '../../../core/exchange/paste-additions.ts'
import { allRoles, roleWord, type ColumnRole } from '../../../core/exchange/table-columns.ts'
import type { Records } from '../../../core/plan/records.ts'
import { tallyKinds } from '../../../core/plan/tally.ts'
import { countText } from '../../../core/view/numbers.ts'
import TurnsText from '../../components/TurnsText.vue'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { newKey } from '../../new-key.ts'
import { usePreview } from '../../use-preview.ts'

/** A table that was pasted: how each column is read, what each line becomes, and which lines were not understood. */
const props = defineProps<{ records: Records; context: EntryContext; spot: Spot | null }>()
const emit = defineEmits<{ pasted: [keys: string[]] }>()
const plan = usePlanStore()
const check = useCheckStore()

const isOpen = ref(false)
const text = ref('')
const table = shallowRef<PastedTable | null>(null)
const onlyBad = ref(false)
const addsPlaces = ref(false)
const addsTallies = ref(false)
const field = ref<HTMLTextAreaElement>()
const first = ref<HTMLElement>()
/** Rows drawn at once: a table of thousands is read whole, and shown in part. */
const mostShown = 300

function readText(): void {
  table.value = text.value.trim() ? readTable(text.value, props.context) : null
}
watch(text, readText)
watch(addsTallies, (adds) => {
  if (adds && table.value) table.value = withTallies(table.value, props.context)
  else readText()
})

/** The same table read with the tallies that it names. */
const withAll = computed(() => table.value && readRows(addsTallies.value ? table.value : withTallies(table.value, props.context), props.context, { places: addsPlaces.value, tallies: true }))
/** Tallies that are not there yet, and are added or may be; and as what kinds, where those are chosen. */
const newTallies = computed(() => (withAll.value ? namedTallies(withAll.value) : []))
const kinds = ref(new Map<string, TallyKind>())
const newPlaces = computed(() => (table.value ? placesToCome(table.value, props.context) : []))
const nothing: Pasted = { rows: [], places: [], tallies: [] }
const read = computed<Pasted>(() => {
  if (!table.value || !withAll.value) return nothing
  if (!addsTallies.value) return readRows(table.value, props.context, { places: addsPlaces.value })
  return { ...withAll.value, tallies: withAll.value.tallies.map((tally) => ({ ...tally, ...plainTally(tally.name, kinds.value.get(tally.id) ?? tally.kind) })) }
})
const rows = computed(() => read.value.rows)
const bad = computed(() => rows.value.filter((row) => !row.ok))
const added = computed(() => pastedText({ row: rows.value.filter(isItem).length, place: read.value.places.length, tally: read.value.tallies.length }))
const shown = computed(() => (onlyBad.value ? bad.value : rows.value).slice(0, mostShown))
const roles = computed(() => allRoles([...props.context.tallies, ...(table.value?.tallies ?? [])]))
const placeName = computed(() => props.records.place.get(props.spot?.place ?? '')?.name)
const pasted = computed(() => (props.spot && added.value ? pasteRows(props.records, read.value, props.spot, check.routeKey, newKey) : null))

const turns = usePreview(() => (isOpen.value && pasted.value?.diff) || null)

function setRole(column: number, role: string): void {
  if (!table.value) return
  const taken = table.value.roles.map((other, c) => (c === column ? (role as ColumnRole) : other === role ? 'ignore' : other))
  table.value = { ...table.value, roles: taken }
}

function take(): void {
  if (!pasted.value) return
  plan.edit(pasted.value.diff)
  emit('pasted', pasted.value.keys)
  isOpen.value = false
}

function open(from: string): void {
  onlyBad.value = false
  addsPlaces.value = false
  addsTallies.value = false
  kinds.value = new Map()
  text.value = from
  readText()
  isOpen.value = true
}

function focusFirst(): void {
  void nextTick(() => (table.value ? first.value?.querySelector('select')?.focus() : field.value?.focus()))
}

defineExpose({ open })
</script>

<template>
  <ElDialog v-model="isOpen" title="Paste rows" width="min(1500px, 94vw)" top="6vh" append-to-body @opened="focusFirst">
    <div data-test="paste">
      <template v-if="!table">
        <p>Paste a table copied from a spreadsheet, or lines as they are typed into the entry line.</p>
        <textarea ref="field" v-model="text" rows="8" aria-label="The table" data-test="paste text" spellcheck="false" />
      </template>
      <template v-else>
        <p class="sum"><b data-test="paste summary">{{ pasteSummary(rows) }}</b><template v-if="placeName">, at {{ placeName }} where no place is named</template>.
          <label v-if="bad.length"><input v-model="onlyBad" type="checkbox" /> show only those that were not</label>
          <button class="quiet" @click="text = ''">Paste something else</button></p>
        <p v-if="newPlaces.length" class="sum"><label><input v-model="addsPlaces" type="checkbox" data-test="paste places" /> add {{ countText(newPlaces.length, 'place') }} {{ newPlaces.length === 1 ? 'that is' : 'that are' }} not there yet, as the next stops: {{ newPlaces.join(', ') }}</label></p>
        <p v-if="newTallies.length" class="sum"><label><input v-model="addsTallies" type="checkbox" data-test="paste tallies" /> add {{ countText(newTallies.length, 'tally', 'tallies') }} {{ newTallies.length === 1 ? 'that is' : 'that are' }} not there yet:</label>
          <span v-for="tally in newTallies" :key="tally.id" class="new">{{ tally.name }}
            <select :value="kinds.get(tally.id) ?? tally.kind" :aria-label="`What kind of tally ${tally.name} is`" :data-test="`kind of ${tally.id}`" @change="kinds.set(tally.id, ($event.target as HTMLSelectElement).value as TallyKind)">
              <option v-for="kind in tallyKinds" :key="kind">{{ kind }}</option>
            </select></span></p>
        <div ref="first" class="table">
          <table>
            <thead>
              <tr>
                <th class="num">line</th>
                <th v-for="(role, c) in table.roles" :key="c">
                  <span class="soft">{{ table.headings?.[c] ?? '' }}</span>
                  <select :value="role" :aria-label="`What column ${c + 1} holds`" :data-test="`column ${c + 1}`" @change="setRole(c, ($event.target as HTMLSelectElement).value)">
                    <option v-for="option in roles" :key="option" :value="option">{{ roleWord(option) }}</option>
                  </select>
                </th>
                <th class="becomes">becomes</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in shown" :key="row.line" :class="{ bad: !row.ok }">
                <td class="num soft">{{ row.line }}</td>
                <td v-for="(role, c) in table.roles" :key="c" :class="{ ignored: role === 'ignore' }">{{ table.rows[row.line - table.firstLine]?.[c] }}</td>
                <td class="says">{{ row.says }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="(onlyBad ? bad.length : rows.length) > shown.length" class="soft">The first {{ mostShown }} are shown; all are read.</p>
        </div>
        <p v-if="pasted" class="ahead"><span class="soft">With them: </span><TurnsText :turns="turns" :most="6" /></p>
      </template>
    </div>
    <template #footer>
      <button class="act plain" @click="isOpen = false">Cancel</button>
      <button class="act" :disabled="!pasted" data-test="paste take" @click="take">{{ pasted ? `Add ${added}` : 'Nothing to add' }}</button>
    </template>
  </ElDialog>
</template>

<style scoped>
textarea { background: var(--paper); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font: 13px var(--mono); padding: 8px; width: 100%; }
.sum { margin: 0 0 8px; }
.sum b ~ label { margin-left: 12px; }
.table { max-height: 56vh; overflow: auto; border: 1px solid var(--line); border-radius: 4px; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
.new { margin-left: 8px; white-space: nowrap; }
th { background: var(--panel); font-weight: 400; padding: 4px 6px; position: sticky; text-align: left; top: 0; vertical-align: bottom; z-index: 1; }
th span { display: block; }
td { border-top: 1px solid var(--line); padding: 2px 6px; }
select { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); field-sizing: content; font-size: 12px; min-width: 100%; padding: 2px; }
.new select { min-width: 0; }
.says, .becomes { background: var(--raised); min-width: 200px; position: sticky; right: 0; }
.becomes { background: var(--panel); z-index: 2; }
.bad, .bad .says { background: color-mix(in srgb, var(--short) 9%, var(--raised)); }
.bad .says { color: var(--short); font-weight: 600; }
.ignored { color: var(--soft); text-decoration: line-through; }
.ahead { margin: 8px 0 0; }
.act { margin-left: 8px; }
.act:disabled { opacity: 0.45; }
</style>
