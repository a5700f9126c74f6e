import { computed, ref } from 'vue'

/** Which of the options of a field is marked by arrow keys; −1: none, so that Enter takes what was typed. `count`: how many there are. */
export function useMarkedOption(count: () => number) {
  const at = ref(-1)
  const marked = computed(() => (at.value < count() ? at.value : -1))
  /** Marks the next one, and none after the last; whether the key was meant so. */
  function onArrow(event: KeyboardEvent): boolean {
    if (!count() || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp')) return false
    event.preventDefault()
    // None is one of them, too.
    const of = count() + 1
    at.value = ((marked.value + 1 + (event.key === 'ArrowDown' ? 1 : -1) + of) % of) - 1
    return true
  }
  return { marked, onArrow, unmark: () => void (at.value = -1) }
}
