import { computed, shallowReadonly, shallowRef, watch, type ComputedRef, type ShallowRef } from 'vue'
import type { Diff } from '../core/change/diff.ts'
import type { Turn } from '../core/view/turns.ts'
import { useCheckStore } from './stores/check.ts'

/** The verdicts that a change would alter, followed as the change and the plan do; null: they are being worked out, or there is no change. */
export function usePreview(change: () => Diff | null): Readonly<ShallowRef<readonly Turn[] | null>> {
  const check = useCheckStore()
  const turns = shallowRef<readonly Turn[] | null>(null)
  watch([change, () => check.view], async ([asked]) => {
    turns.value = null
    const found = asked && (await check.preview(asked))
    if (found && asked === change()) turns.value = found
  }, { immediate: true })
  return shallowReadonly(turns)
}

/** The same for what is typed letter by letter: the verdicts of the letter before stand until others are known, while `isAny` says that there is a change. */
export function steadyPreview(change: () => Diff | null, isAny = () => change() !== null): ComputedRef<readonly Turn[]> {
  const turns = usePreview(change)
  return computed((before = []) => (isAny() ? (turns.value ?? before) : []))
}
