import type { Directive } from 'vue'

/**
 * For a list that chooses what is shown: after a choice by the pointer the keyboard is where it was, so that keys such as `n` go on
 * working; the list would search itself for the letter. Who chooses by keyboard stays in it.
 */
export const vLentFocus: Directive<HTMLElement> = {
  mounted(list) {
    let before: Element | null = null
    list.addEventListener('mousedown', () => {
      if (document.activeElement !== list) before = document.activeElement
    })
    list.addEventListener('keydown', () => (before = null))
    list.addEventListener('change', () => {
      if (!before) return
      list.blur()
      if (before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true })
      before = null
    })
  },
}
