<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { ElMessageBox } from 'element-plus'
import { usersOfId } from '../../../core/change/users.ts'
import { freshRecord } from '../../../core/change/fresh.ts'
import { addRecord, freeId, removeRecords } from '../../../core/change/edits.ts'
import type { Fit } from '../../../core/change/fit-curve.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Row } from '../../../core/plan/records.ts'
import { issueText } from '../../../core/plan/issue-text.ts'
import { capsOf } from '../../../core/view/caps.ts'
import { curveSteps, stopReached, xpUnits, type XpUnit } from '../../../core/view/curve-table.ts'
import { formTroubles } from '../../../core/view/stat-table.ts'
import { addCommands } from '../../commands.ts'
import ChoiceSelect from '../../components/ChoiceSelect.vue'
import RecordEditor from '../../components/dock/RecordEditor.vue'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import type { ProfileView } from '../../workers/check.worker.ts'
import { newKey } from '../../new-key.ts'
import BenchPanel from './BenchPanel.vue'
import CharacterPanel from './CharacterPanel.vue'
import CharactersCompared from './CharactersCompared.vue'
import ColumnDialog from './ColumnDialog.vue'
import CurveChart from './CurveChart.vue'
import CurveTable from './CurveTable.vue'
import FitPanel from './FitPanel.vue'
import SinceOpened from './SinceOpened.vue'
import WorkedExample from './WorkedExample.vue'

/** How fast characters grow: curves side by side, what each step takes in units of real content, and a bench to try it on. */
const plan = usePlanStore()
const check = useCheckStore()
const curveKey = ref<string | null>(null)
const characterKey = ref<string | null>(null)
const overlaid = ref(new Set<string>())
const isLog = ref(false)
const unitId = ref('')
const focus = ref<number | null>(null)
const everyone = shallowRef<ProfileView[]>([])
const fit = shallowRef<Fit | null>(null)
const column = ref<InstanceType<typeof ColumnDialog>>()

const curves = computed(() => (plan.records ? inOrder(plan.records, 'curve') : []))
const curve = computed(() => curves.value.find((row) => row.key === curveKey.value) ?? curves.value[0])
const climbers = computed(() => (plan.records ? inOrder(plan.records, 'character').filter((row) => row.curve === curve.value?.id) : []))
const character = computed(() => climbers.value.find((row) => row.key === characterKey.value) ?? climbers.value[0])
const steps = computed(() => (curve.value ? curveSteps(curve.value) : []))
const issues = computed(() => (curve.value ? check.issuesOf(curve.value.key) : []))
const charted = computed(() => {
  if (!curve.value) return []
  const others = curves.value.filter((row) => row.key !== curve.value!.key && overlaid.value.has(row.key)).map((row) => ({ key: row.key, name: labelOf(row), steps: curveSteps(row) }))
  const fitted = fit.value ? [{ key: 'fit', name: 'as it would be', steps: curveSteps({ ...curve.value, rule: fit.value.rule }) }] : []
  return [{ key: curve.value.key, name: labelOf(curve.value), steps: steps.value }, ...fitted, ...others]
})

/** What steps are counted in: a source, or a minute of the route as the chosen kind of player gains. */
const units = computed((): XpUnit[] => {
  if (!plan.records || !character.value) return []
  const tally = character.value.experience
  const view = everyone.value.find((one) => one.key === check.profileKey)
  const minutes = view?.stops.reduce((sum, stop) => sum + stop.minutes, 0) ?? 0
  const xp = view?.stops.at(-1)?.tallies[tally]?.median ?? 0
  return [...(minutes > 0 && xp > 0 ? [{ id: ' minute', name: 'minutes of the route', xp: xp / minutes }] : []), ...xpUnits(plan.records, tally)]
})
const unitChoices = computed(() => units.value.map(({ id, name }) => ({ value: id, text: name })))
const unit = computed(() => units.value.find((one) => one.id === unitId.value) ?? units.value[0] ?? null)
const names = computed(() => new Map(plan.records ? inOrder(plan.records, 'place').map((row) => [row.id, labelOf(row)]) : []))
const reached = computed(() => {
  const id = character.value?.id
  return id === undefined ? [] : everyone.value.map(({ name, stops }) => ({
    name,
    at: (level: number) => {
      const stop = stopReached(stops, id, level)
      return stop === null ? '–' : (names.value.get(stops[stop]!.place) ?? '')
    },
  }))
})

watch(() => check.view, async () => {
  const found = await check.everyone()
  if (found) everyone.value = found
}, { immediate: true })
watch(curve, (now, before) => {
  if (now?.key !== before?.key) focus.value = null
})

function toggle(key: string): void {
  const next = new Set(overlaid.value)
  if (!next.delete(key)) next.add(key)
  overlaid.value = next
}

function add(): void {
  if (!plan.records) return
  const fresh = freshRecord(plan.records, 'curve', freeId(plan.records, 'curve', 'new curve'))
  if (typeof fresh === 'string') return
  const key = newKey()
  plan.edit(addRecord(plan.records, 'curve', key, fresh))
  curveKey.value = key
}

/** Doubles a record right below it, and gives the key of the copy. */
function doubled(kind: 'curve' | 'character', row: Row<'curve'> | Row<'character'>): string | null {
  if (!plan.records) return null
  const key = newKey()
  const { key: _, order: __, ...fields } = row
  const copy = { ...fields, id: freeId(plan.records, kind, row.id), name: `${row.name} (copy)` }
  plan.edit({ ...addRecord(plan.records, kind, key, copy as never, row.key), name: `double ${labelOf(row)}` })
  return key
}

/** A new character on the chosen curve. */
function addCharacter(): void {
  if (!plan.records || !curve.value) return
  const fresh = freshRecord(plan.records, 'character', freeId(plan.records, 'character', 'new character'))
  if (typeof fresh === 'string') return void (plan.notice = fresh)
  const key = newKey()
  plan.edit(addRecord(plan.records, 'character', key, { ...fresh, curve: curve.value.id }))
  characterKey.value = key
}

/** What still names a character stays, and is told as a fault of the plan; so it is asked first. */
async function removeCharacter(row: Row<'character'>): Promise<void> {
  if (!plan.records) return
  const users = usersOfId(plan.records, 'character', row.id)
  const isMeant = users.length === 0 || (await ElMessageBox.confirm(`${labelOf(row)} is still named by ${users.slice(0, 6).join(', ')}${users.length > 6 ? ` and ${users.length - 6} more` : ''}.`, `Delete ${labelOf(row)}?`, { confirmButtonText: 'Delete', cancelButtonText: 'Leave it' }).then(() => true, () => false))
  if (isMeant && plan.records) plan.edit(removeRecords(plan.records, [{ kind: 'character', key: row.key }]))
}

/** Who still uses a curve: while somebody does, it is not deleted. */
function usersOf(row: Row<'curve'>): string {
  return plan.records ? inOrder(plan.records, 'character').filter((one) => one.curve === row.id).map(labelOf).join(', ') : ''
}

const takeBack = addCommands([
  { id: 'curve-log', title: 'Curves: logarithmic or linear', keys: 'l', run: () => (isLog.value = !isLog.value) },
  { id: 'curve-add', title: 'Add a curve', keys: 'c', run: add },
  { id: 'curve-paste', title: 'Paste a column into the curve …', run: () => column.value?.open('') },
])
onUnmounted(takeBack)
</script>

<template>
  <div v-if="plan.records" class="curves">
    <aside class="left">
      <h2>Curves <button class="quiet" data-test="add curve" @click="add">+ add</button></h2>
      <ul class="list">
        <li v-for="row in curves" :key="row.key" :class="{ chosen: row.key === curve?.key }">
          <input type="checkbox" :checked="row.key === curve?.key || overlaid.has(row.key)" :disabled="row.key === curve?.key" :aria-label="`Draw ${labelOf(row)} too`" @change="toggle(row.key)" />
          <button class="name" :aria-pressed="row.key === curve?.key" @click="curveKey = row.key">{{ labelOf(row) }}</button>
          <button class="quiet" :aria-label="`Double ${labelOf(row)}`" title="Double" @click="curveKey = doubled('curve', row)">double</button>
          <button class="quiet" :disabled="usersOf(row) !== ''" :aria-label="`Delete ${labelOf(row)}`" :title="usersOf(row) ? `Used by ${usersOf(row)}` : 'Delete'" @click="plan.edit(removeRecords(plan.records!, [{ kind: 'curve', key: row.key }]))">×</button>
        </li>
      </ul>
      <RecordEditor v-if="curve" :records="plan.records" kind="curve" :record-key="curve.key" />
    </aside>
    <section v-if="curve" class="middle" :aria-label="labelOf(curve)">
      <header>
        <h2>{{ labelOf(curve) }}</h2>
        <label><input v-model="isLog" type="checkbox" data-test="log" /> logarithmic</label>
        <span class="unit">counted in <ChoiceSelect class="units" :value="unit?.id ?? ''" :choices="unitChoices" label="Counted in" test="unit" @choose="(id) => (unitId = id)" /></span>
        <button class="quiet" data-test="paste column" @click="column?.open('')">Paste a column …</button>
      </header>
      <p v-for="(issue, i) in issues" :key="i" class="wrong" role="alert">{{ issueText(issue) }}</p>
      <CurveChart
        v-if="steps.length" :curves="charted" :log="isLog" :focus="focus" :forms="character?.forms ?? []" :troubles="character ? formTroubles(character, curve) : []"
        :caps="character ? capsOf(plan.records, character).map((cap) => ({ level: cap.level, label: `${cap.by}${cap.place ? `, ${cap.place}` : ''}` })) : []" @focus="(level) => (focus = level)"
      />
      <WorkedExample :records="plan.records" :curve="curve" />
      <FitPanel v-if="character" :key="`${curve.key} ${character.key}`" :records="plan.records" :curve="curve" :character="character" :everyone="everyone" :profile-key="check.profileKey" @shown="(found) => (fit = found)" />
      <CurveTable :records="plan.records" :curve="curve" :steps="steps" :unit="unit" :focus="focus" :reached="reached" @focus="(level) => (focus = level)" @paste="(text) => column?.open(text)" />
      <ColumnDialog ref="column" :records="plan.records" :curve="curve" />
    </section>
    <div v-else class="middle"><p class="soft">There is no curve yet. A curve says how much XP each level takes; characters climb it.</p><p><button class="act" @click="add">Add a curve</button></p></div>
    <aside class="right">
      <template v-if="curve && character">
        <h2 class="who"><select :value="character.key" aria-label="Character" data-test="character" @change="characterKey = ($event.target as HTMLSelectElement).value"><option v-for="row in climbers" :key="row.key" :value="row.key">{{ labelOf(row) }}</option></select>
          <span><button class="quiet" data-test="add character" @click="addCharacter">+ add</button><button class="quiet" data-test="double character" @click="characterKey = doubled('character', character)">double</button><button class="quiet" :aria-label="`Delete ${labelOf(character)}`" data-test="delete character" @click="removeCharacter(character)">×</button></span></h2>
        <BenchPanel :key="character.key" :records="plan.records" :character="character" />
        <SinceOpened :records="plan.records" />
        <CharacterPanel :records="plan.records" :character="character" :curve="curve" />
        <CharactersCompared :records="plan.records" :everyone="everyone" :profile-key="check.profileKey" />
        <details><summary>All fields of {{ labelOf(character) }}</summary><RecordEditor :records="plan.records" kind="character" :record-key="character.key" /></details>
      </template>
      <p v-else class="soft">Nobody climbs this curve yet. <button v-if="curve" class="act" data-test="add character" @click="addCharacter">Add a character</button></p>
      <SinceOpened v-if="!character" :records="plan.records" />
    </aside>
  </div>
</template>

<style scoped>
.curves { display: grid; flex: 1; grid-template-columns: 304px minmax(0, 1fr) 300px; grid-template-rows: minmax(0, 1fr); min-height: 0; min-width: 0; }
@media (min-width: 1700px) { .curves { grid-template-columns: 340px minmax(0, 1fr) 400px; } }
.left, .right { overflow: auto; padding: 10px 12px 20px; }
.left { border-right: 1px solid var(--line); }
.right { border-left: 1px solid var(--line); }
.middle { display: flex; flex-direction: column; min-height: 0; min-width: 0; padding: 8px 14px; }
h2 { align-items: center; display: flex; font-size: 15px; justify-content: space-between; margin: 0 0 6px; }
header { align-items: center; display: flex; flex-wrap: wrap; gap: 4px 14px; }
header h2 { flex: 1; margin: 0; }
.list { list-style: none; margin: 0 0 12px; padding: 0; }
.list li { align-items: center; border-radius: 4px; display: flex; gap: 4px; padding: 1px 4px; }
.list li.chosen { background: var(--mark); }
.name { background: none; border: 0; color: var(--ink); cursor: pointer; flex: 1; font-size: 13px; padding: 3px 0; text-align: left; }
select { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; max-width: 210px; padding: 3px 6px; }
.unit { align-items: center; display: flex; gap: 4px; }
.units { width: 190px; }
.left :deep(.steps) { display: none; }
.left :deep(.growth input) { padding: 4px 3px; }
.list .quiet { color: var(--soft); font-size: 12px; padding: 3px 5px; }
.wrong { color: var(--short); margin: 2px 0; }
.who { gap: 6px; }
.who .quiet { color: var(--soft); font-size: 12px; padding: 3px 5px; }
details { border-top: 1px solid var(--line); margin-top: 12px; padding-top: 8px; }
summary { cursor: pointer; font-weight: 600; margin-bottom: 8px; }
</style>
