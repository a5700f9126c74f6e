<script setup lang="ts">
import { computed, onUnmounted, provide, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { addCommands, dialogs } from '../../commands.ts'
import HistoryDialog from '../../components/HistoryDialog.vue'
import ReplaceDialog from '../../components/ReplaceDialog.vue'
import { useFileActions } from '../../components/file-actions.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useFindingsStore } from '../../stores/findings.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { useTurnedStore } from '../../stores/turned.ts'
import { troubleKey, views, type StepThroughTrouble } from './views.ts'
import VerdictStrip from './VerdictStrip.vue'

/** What all views of an open plan share: the plan itself, its verdicts, its history, and the commands for them. */
const route = useRoute()
const router = useRouter()
const plan = usePlanStore()
const check = useCheckStore()
const findings = useFindingsStore()
const selection = useSelectionStore()
const turned = useTurnedStore()
const { exportPlan, importPlan, renamePlan, copyPlan } = useFileActions()

const isOpen = computed(() => plan.records !== null)

/** The view that is open goes through gates in trouble in its own way, while there are no findings. */
const ownSteps = ref<StepThroughTrouble | null>(null)
provide(troubleKey, ownSteps)

/** Through the findings, which are looked at in the Route view. */
async function goToTrouble(by: 1 | -1): Promise<void> {
  if (!findings.steps.length) return ownSteps.value?.(by)
  if (route.name !== 'route') await router.push({ name: 'route', params: route.params })
  findings.step(by)
}

watch(() => route.params.id, (id) => {
  selection.clear()
  if (typeof id === 'string') void plan.open(id)
}, { immediate: true })
watch(() => plan.records?.head.name, (name) => (document.title = name ? `${name} · Tundrift` : 'Tundrift'))

const takeBack = addCommands([
  { id: 'undo', title: 'Undo', keys: 'Ctrl+Z', run: () => plan.undo(), enabled: () => plan.undoName !== null },
  { id: 'redo', title: 'Redo', keys: 'Ctrl+Shift+Z', run: () => plan.redo(), enabled: () => plan.redoName !== null },
  ...views.map(({ name, word, key }) => ({ id: `view ${name}`, title: `Go to ${word}`, keys: key, run: () => void router.push({ name, params: route.params }) })),
  { id: 'next-trouble', title: 'Next finding', keys: 'n', run: () => void goToTrouble(1) },
  { id: 'previous-trouble', title: 'The finding before this one', keys: 'p', run: () => void goToTrouble(-1) },
  { id: 'turned', title: 'Next gate that the last change turned', keys: 'v', run: () => turned.step(), enabled: () => turned.turns.length > 0 },
  { id: 'history', title: 'History: step back or forward …', keys: 'h', run: () => (dialogs.history = true) },
  { id: 'replace', title: 'Find and replace names and ids …', keys: 'Ctrl+Shift+F', run: () => (dialogs.replace = true) },
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
  <div v-else-if="!isOpen" class="message soft">Opening the plan …</div>
  <div v-else class="frame">
    <VerdictStrip @next="goToTrouble(1)" />
    <p v-if="plan.notice" class="notice" role="alert" data-test="notice">{{ plan.notice }} <button class="quiet" @click="plan.notice = null">Close</button></p>
    <p v-if="check.failure" class="notice" role="alert">{{ check.failure }}</p>
    <div class="work"><RouterView /></div>
    <HistoryDialog />
    <ReplaceDialog />
  </div>
</template>

<style scoped>
.frame { display: flex; flex-direction: column; height: 100%; }
.work { display: flex; flex: 1; min-height: 0; }
.message { margin: 80px auto; max-width: 560px; padding: 0 20px; }
h1 { font-size: 18px; }
.notice { background: var(--mark); margin: 0; padding: 6px 14px; }
</style>
