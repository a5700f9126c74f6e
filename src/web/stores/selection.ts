import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { KindName } from '../../core/plan/kinds.ts'

export interface Chosen {
  kind: KindName
  key: string
}

/** The item that the dock shows; all views share it. */
export const useSelectionStore = defineStore('selection', () => {
  const chosen = ref<Chosen | null>(null)

  function choose(kind: KindName, key: string): void {
    chosen.value = { kind, key }
  }

  function clear(): void {
    chosen.value = null
  }

  return { chosen, choose, clear }
})
