<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { onMounted, onUnmounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { PlanSummary } from '../../../core/contract/api.ts'
import { countText } from '../../../core/view/numbers.ts'
import { api } from '../../api.ts'
import { addCommands } from '../../commands.ts'
import { useFileActions } from '../../components/file-actions.ts'
import { usePlanStore } from '../../stores/plan.ts'

const router = useRouter()
const plans = ref<PlanSummary[] | null>(null)
const failure = ref<string | null>(null)
const { newPlan, importPlan, askName, told, fileUrl } = useFileActions()

async function load(): Promise<void> {
  try {
    plans.value = await api.plans()
    failure.value = null
  } catch (error) {
    failure.value = (error as Error).message
  }
}

async function rename(summary: PlanSummary): Promise<void> {
  const name = await askName('Rename the plan', summary.name)
  if (name) await told(() => api.rename(summary.id, name))
  await load()
}

async function remove(summary: PlanSummary): Promise<void> {
  const text = `“${summary.name}” with ${countText(summary.sources, 'source')} and ${countText(summary.gates, 'gate')} will be gone for good, its history too. Export it first if you may want it back.`
  const sure = await ElMessageBox.confirm(text, 'Delete this plan?', { confirmButtonText: 'Delete', cancelButtonText: 'Keep', type: 'warning' }).catch(() => null)
  if (sure) await told(() => api.remove(summary.id))
  await load()
}

async function copy(summary: PlanSummary): Promise<void> {
  await told(() => api.copy(summary.id))
  await load()
}

const takeBack = addCommands([
  { id: 'new-plan', title: 'New plan …', keys: 'c', run: newPlan },
  { id: 'import', title: 'Import a plan file …', run: importPlan },
])
onMounted(async () => {
  await usePlanStore().close()
  await load()
})
onUnmounted(takeBack)
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>Plans</h1>
      <button class="act" data-test="new-plan" @click="newPlan">New plan</button>
      <button class="act plain" @click="importPlan">Import a plan file</button>
    </div>
    <p v-if="failure" class="failure" role="alert">{{ failure }} <button class="act plain" @click="load">Try again</button></p>
    <p v-else-if="plans && !plans.length" class="soft">No plan yet. Make a new one, or import a plan file (*.tundrift.json).</p>
    <table v-else-if="plans">
      <thead><tr><th>Name</th><th class="num">Places</th><th class="num">Sources</th><th class="num">Gates</th><th>Changed</th><th></th></tr></thead>
      <tbody>
        <tr v-for="summary in plans" :key="summary.id">
          <td><a :href="`/plans/${summary.id}`" @click.prevent="router.push(`/plans/${summary.id}`)">{{ summary.name }}</a></td>
          <td class="num">{{ summary.places }}</td><td class="num">{{ summary.sources }}</td><td class="num">{{ summary.gates }}</td>
          <td class="soft">{{ new Date(summary.changedAt).toLocaleString() }}</td>
          <td class="acts">
            <button class="quiet" @click="rename(summary)">Rename</button>
            <button class="quiet" @click="copy(summary)">Copy</button>
            <a class="quiet" :href="fileUrl(summary.id)">Export</a>
            <button class="quiet" @click="remove(summary)">Delete</button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.page { height: 100%; margin: 0 auto; max-width: 960px; overflow: auto; padding: 28px 24px; }
.head { align-items: center; display: flex; gap: 12px; margin-bottom: 16px; }
h1 { font-size: 22px; flex: 1; margin: 0; }
table { border-collapse: collapse; width: 100%; }
th { color: var(--soft); font-weight: 400; }
th, td { border-bottom: 1px solid var(--line); padding: 9px 8px; text-align: left; }
th.num, td.num { text-align: right; }
td a { color: var(--ink); font-weight: 600; }
.acts { text-align: right; white-space: nowrap; }
.acts .quiet { color: var(--soft); font-weight: 400; text-decoration: none; display: inline-block; }
.failure { color: var(--short); }
</style>
