/** Hands that did nothing for so long, in milliseconds, are at rest. */
const usualPause = 250

/** Tells when the user begins to scroll, type or drag, and when it is over. */
export function watchHands(told: (busy: boolean) => void, on: EventTarget = window, pause = usualPause): void {
  let timer: ReturnType<typeof setTimeout> | null = null
  const rest = () => {
    timer = null
    told(false)
  }
  const move = () => {
    if (timer === null) told(true)
    else clearTimeout(timer)
    timer = setTimeout(rest, pause)
  }
  for (const type of ['scroll', 'wheel', 'keydown', 'dragover']) on.addEventListener(type, move, { capture: true, passive: true })
  on.addEventListener('pointermove', (event) => (event as PointerEvent).buttons > 0 && move(), { capture: true, passive: true })
}
