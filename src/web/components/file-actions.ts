import { ElMessage, ElMessageBox } from 'element-plus'
import { useRouter } from 'vue-router'
import { paths } from '../../core/contract/api.ts'
import { writePlan } from '../../core/plan/file.ts'
import { api, ProblemError } from '../api.ts'
import { setHead } from '../../core/change/edits.ts'
import { usePlanStore } from '../stores/plan.ts'

/** What can be done with a plan as a whole: its file, its name, its copy. */
export function useFileActions() {
  const plan = usePlanStore()
  const router = useRouter()

  async function told<T>(action: () => Promise<T>): Promise<T | undefined> {
    try {
      return await action()
    } catch (error) {
      const issues = error instanceof ProblemError ? (error.problem.issues ?? []) : []
      await ElMessageBox.alert(issues.length ? issueList(issues) : (error as Error).message, issues.length ? (error as Error).message : 'That did not work', { confirmButtonText: 'Close' }).catch(() => {})
      return undefined
    }
  }

  /** The plan as it stands on the screen, unsaved edits and all. */
  function exportPlan(): void {
    if (!plan.records) return
    const url = URL.createObjectURL(new Blob([writePlan(plan.records)], { type: 'application/json' }))
    const link = Object.assign(document.createElement('a'), { href: url, download: `${plan.records.head.id}.tundrift.json` })
    link.click()
    URL.revokeObjectURL(url)
  }

  function importPlan(): void {
    const input = Object.assign(document.createElement('input'), { type: 'file', accept: '.json,application/json' })
    input.addEventListener('change', () => void take(input.files?.[0]))
    input.click()
  }

  async function take(file: File | undefined): Promise<void> {
    if (!file) return
    const id = await told(async () => api.importFile(await file.text()))
    if (id) await router.push(`/plans/${id}`)
  }

  /** What is typed takes the place of the name that stands there. */
  function chooseName({ target }: FocusEvent): void {
    if (target instanceof HTMLInputElement && target.closest('.el-message-box__input')) target.select()
  }

  async function askName(title: string, value: string): Promise<string | null> {
    document.addEventListener('focusin', chooseName)
    const answer = await ElMessageBox.prompt('Name', title, { inputValue: value, inputPattern: /\S/, inputErrorMessage: 'A plan needs a name.', confirmButtonText: 'OK', cancelButtonText: 'Cancel' }).catch(() => null)
    document.removeEventListener('focusin', chooseName)
    return answer && 'value' in answer ? answer.value.trim() : null
  }

  async function renamePlan(): Promise<void> {
    if (!plan.records) return
    const name = await askName('Rename the plan', plan.records.head.name)
    if (name && plan.records) plan.edit(setHead(plan.records, { name }, `rename the plan to ${name}`))
  }

  async function copyPlan(): Promise<void> {
    // The copy is made where the plan is kept.
    await plan.send()
    const id = plan.id && (await told(() => api.copy(plan.id!)))
    if (!id) return
    await router.push(`/plans/${id}`)
    ElMessage.success('This is the copy.')
  }

  async function newPlan(): Promise<void> {
    const name = await askName('New plan', 'New plan')
    const id = name && (await told(() => api.create(name)))
    if (id) await router.push(`/plans/${id}`)
  }

  return { exportPlan, importPlan, renamePlan: () => void renamePlan(), copyPlan: () => void copyPlan(), newPlan: () => void newPlan(), askName, told, fileUrl: paths.file }
}

function issueList(issues: readonly { path: string; message: string }[]): string {
  const shown = issues.slice(0, 12).map(({ path, message }) => `${path || 'the file'}: ${message}`)
  return [...shown, ...(issues.length > 12 ? [`and ${issues.length - 12} more`] : [])].join('\n')
}
