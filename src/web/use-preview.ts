import { watchDebounced } from '@vueuse/core'
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

/** In milliseconds: what is typed is tried when no letter has come for so long. Whoever types on, or takes it at once, waits for nothing. */
const pause = 40

/**
 * The same for what is typed, or has just begun to be, which changes whenever `typed` does: `change` is asked for when that rests. The
 * verdicts of the letter before stand until others are known.
 */
export function useTypedPreview(typed: () => unknown, change: () => Diff | null): ComputedRef<readonly Turn[]> {
  /** undefined: it is still typed. */
  const tried = shallowRef<Diff | null | undefined>(null)
  watch(typed, () => (tried.value = undefined))
  watchDebounced(typed, () => (tried.value = change()), { debounce: pause, immediate: true })
  const turns = usePreview(() => tried.value ?? null)
  return computed((before = []) => (tried.value === null ? [] : (turns.value ?? before)))
}
