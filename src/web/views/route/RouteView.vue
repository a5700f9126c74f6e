<script setup lang="ts">
import { onUnmounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { addCommands, dialogs } from '../../commands.ts'
import HistoryDialog from '../../components/HistoryDialog.vue'
import ReplaceDialog from '../../components/ReplaceDialog.vue'
import PlanDock from '../../components/dock/PlanDock.vue'
import { useFileActions } from '../../components/file-actions.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useFindingsStore } from '../../stores/findings.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import FirstSteps from './FirstSteps.vue'
import RouteSheet from './RouteSheet.vue'
import VerdictStrip from './VerdictStrip.vue'

const route = useRoute()
const plan = usePlanStore()
const check = useCheckStore()
const findings = useFindingsStore()
const selection = useSelectionStore()
const { exportPlan, importPlan, renamePlan, copyPlan } = useFileActions()
const sheet = ref<InstanceType<typeof RouteSheet>>()

/** Through the findings; while there are none, through the gates in trouble. */
function goToTrouble(by: 1 | -1): void {
  if (!findings.step(by)) sheet.value?.goToTrouble(by)
}

watch(() => route.params.id, (id) => {
  selection.clear()
  if (typeof id === 'string') void plan.open(id)
}, { immediate: true })
watch(() => plan.records?.head.name, (name) => (document.title = name ? `${name} · Tundrift` : 'Tundrift'))

const takeBack = addCommands([
  { id: 'undo', title: 'Undo', keys: 'Ctrl+Z', run: () => plan.undo(), enabled: () => plan.undoName !== null },
  { id: 'redo', title: 'Redo', keys: 'Ctrl+Shift+Z', run: () => plan.redo(), enabled: () => plan.redoName !== null },
  { id: 'next-trouble', title: 'Next finding', keys: 'n', run: () => goToTrouble(1) },
  { id: 'previous-trouble', title: 'The finding before this one', keys: 'p', run: () => goToTrouble(-1) },
  { id: 'entry', title: 'Type into the entry line', keys: '/', run: () => sheet.value?.focusEntry() },
  { id: 'sheet', title: 'Go to the sheet', keys: '1', run: () => sheet.value?.focusGrid() },
  { id: 'find', title: 'Find rows in the sheet', keys: 'Ctrl+F', run: () => sheet.value?.focusFinder() },
  { id: 'copy-rows', title: 'Copy the chosen rows as a table', shown: 'Ctrl+C', run: () => void sheet.value?.copyChosen() },
  { id: 'paste-rows', title: 'Paste rows from a table …', shown: 'Ctrl+V', run: () => sheet.value?.openPaste() },
  { id: 'change-chosen', title: 'Change the chosen rows together', keys: 'm', run: () => sheet.value?.changeChosen() },
  { id: 'everyone', title: 'Show all kinds of player at once', keys: 'a', run: () => (check.showsEveryone = !check.showsEveryone) },
  { id: 'lanes', title: 'Choose and order the lanes', keys: 'l', run: () => sheet.value?.chooseLanes() },
  { id: 'zoom-in', title: 'Zoom into the wide lane', keys: '+', run: () => sheet.value?.zoom(2) },
  { id: 'zoom-out', title: 'Zoom out of the wide lane', keys: '-', run: () => sheet.value?.zoom(0.5) },
  { id: 'zoom-all', title: 'Show the whole scale of the wide lane', keys: '0', run: () => sheet.value?.zoom(0) },
  { id: 'history', title: 'History: step back or forward …', keys: 'h', run: () => (dialogs.history = true) },
  { id: 'replace', title: 'Find and replace names and ids …', keys: 'Ctrl+Shift+F', run: () => (dialogs.replace = true) },
  { id: 'fold-all', title: 'Fold or unfold all places', keys: 'f', run: () => sheet.value?.foldAll() },
  { id: 'plan-settings', title: 'Tallies, characters, curves, routes, profiles', keys: 't', run: () => selection.clear() },
  { id: 'rename', title: 'Rename the plan …', run: renamePlan },
  { id: 'copy', title: 'Make a copy of the plan', run: copyPlan },
  { id: 'import', title: 'Import a plan file …', run: importPlan },
  { id: 'export', title: 'Export as a plan file', run: exportPlan },
])
onUnmounted(takeBack)
</script>

<template>
  <div v-if="plan.loadError" class="message" role="alert">
    <h1>This plan could not be opened</h1>
    <p>{{ plan.loadError }}</p>
    <p><button class="act" @click="plan.open(String(route.params.id))">Try again</button> <RouterLink to="/">All plans</RouterLink></p>
  </div>
  <div v-else-if="plan.removedElsewhere" class="message" role="alert">
    <h1>This plan was deleted in another window</h1>
    <p>What you see is still here: <button class="act" @click="exportPlan">Export it as a plan file</button> <RouterLink to="/">All plans</RouterLink></p>
  </div>
  <div v-else-if="!plan.records" class="message soft">Opening the plan …</div>
  <div v-else class="route">
    <VerdictStrip @next="goToTrouble(1)" />
    <p v-if="plan.notice" class="notice" role="alert">{{ plan.notice }} <button class="quiet" @click="plan.notice = null">Close</button></p>
    <p v-if="check.failure" class="notice" role="alert">{{ check.failure }}</p>
    <div class="work">
      <FirstSteps v-if="plan.records.place.size === 0" class="main" />
      <RouteSheet v-else ref="sheet" :records="plan.records" class="main" />
      <PlanDock :records="plan.records" />
    </div>
    <HistoryDialog />
    <ReplaceDialog :records="plan.records" />
  </div>
</template>

<style scoped>
.route { display: flex; flex-direction: column; height: 100%; }
.work { display: flex; flex: 1; min-height: 0; }
.main { flex: 1; min-width: 0; }
.message { margin: 80px auto; max-width: 560px; padding: 0 20px; }
h1 { font-size: 18px; }
.notice { background: var(--mark); margin: 0; padding: 6px 14px; }
</style>
