import { ElMessage } from 'element-plus'
import type { Ref } from 'vue'
import { copyRows } from '../../../core/exchange/copy-rows.ts'
import type { ItemRow, Records } from '../../../core/plan/records.ts'
import { countText } from '../../../core/view/numbers.ts'

/** Copies the chosen rows out as a table, by the browser's own copying or from a button. */
export function useCopiedRows(records: () => Records, chosen: Readonly<Ref<readonly ItemRow[]>>, isTyping: () => boolean) {
  const table = () => copyRows(records(), chosen.value)
  const tell = () => ElMessage({ message: `${countText(chosen.value.length, 'row')} copied as a table.`, type: 'success', duration: 2000 })

  function onCopy(event: ClipboardEvent): void {
    if (isTyping() || !chosen.value.length) return
    event.preventDefault()
    event.clipboardData?.setData('text/plain', table())
    tell()
  }

  /** The same from a button or the palette, where there is no event that holds the clipboard. */
  async function copyChosen(): Promise<void> {
    if (!chosen.value.length) return
    try {
      await navigator.clipboard.writeText(table())
      tell()
    } catch {
      ElMessage({ message: 'The browser does not let a button copy here: press Ctrl+C in the sheet instead.', type: 'warning' })
    }
  }

  return { onCopy, copyChosen }
}
