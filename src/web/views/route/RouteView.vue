<script setup lang="ts">
import { inject, nextTick, onUnmounted, ref } from 'vue'
import { addCommands } from '../../commands.ts'
import PlanDock from '../../components/dock/PlanDock.vue'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { troubleKey } from '../plan/views.ts'
import FirstSteps from './FirstSteps.vue'
import RouteSheet from './RouteSheet.vue'

/** The route as a sheet, with the dock beside it. */
const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()
const sheet = ref<InstanceType<typeof RouteSheet>>()
const first = ref<InstanceType<typeof FirstSteps>>()

const ownSteps = inject(troubleKey)
if (ownSteps) ownSteps.value = (by) => sheet.value?.goToTrouble(by)

/** What comes next is typed into the entry line. */
async function goOn(): Promise<void> {
  await nextTick()
  sheet.value?.focusEntry()
}

const takeBack = addCommands([
  { id: 'entry', title: 'Type into the entry line', keys: '/', run: () => (sheet.value ?? first.value)?.focusEntry() },
  { id: 'sheet', title: 'Go to the rows of the sheet', keys: 'g', run: () => sheet.value?.focusGrid() },
  { id: 'find', title: 'Find rows in the sheet', keys: 'Ctrl+F', run: () => sheet.value?.focusFinder() },
  { id: 'copy-rows', title: 'Copy the chosen rows as a table', shown: 'Ctrl+C', run: () => void sheet.value?.copyChosen() },
  { id: 'paste-rows', title: 'Paste rows from a table …', shown: 'Ctrl+V', run: () => sheet.value?.openPaste() },
  { id: 'change-chosen', title: 'Change the chosen rows together', keys: 'm', run: () => sheet.value?.changeChosen() },
  { id: 'everyone', title: 'Show all kinds of player at once', keys: 'a', run: () => (check.showsEveryone = !check.showsEveryone) },
  { id: 'lanes', title: 'Choose and order the lanes', keys: 'l', run: () => sheet.value?.chooseLanes() },
  { id: 'zoom-in', title: 'Zoom into the wide lane', keys: '+', run: () => sheet.value?.zoom(2) },
  { id: 'zoom-out', title: 'Zoom out of the wide lane', keys: '-', run: () => sheet.value?.zoom(0.5) },
  { id: 'zoom-all', title: 'Show the whole scale of the wide lane', keys: '0', run: () => sheet.value?.zoom(0) },
  { id: 'fold-all', title: 'Fold or unfold all places', keys: 'f', run: () => sheet.value?.foldAll() },
  { id: 'plan-settings', title: 'Tallies, characters, curves, routes, profiles', keys: 't', run: () => selection.clear() },
])
onUnmounted(() => {
  takeBack()
  if (ownSteps) ownSteps.value = null
})
</script>

<template>
  <template v-if="plan.records">
    <FirstSteps v-if="plan.records.place.size === 0" ref="first" class="main" @begun="goOn" />
    <RouteSheet v-else ref="sheet" :records="plan.records" class="main" />
    <PlanDock :records="plan.records" />
  </template>
</template>

<style scoped>
.main { flex: 1; min-width: 0; }
</style>
