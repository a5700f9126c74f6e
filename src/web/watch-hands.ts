/** Hands that did nothing for so long, in milliseconds, are at rest. */
const usualPause = 250

export interface Hands {
  areBusy: () => boolean
  /** Done when they are at rest. */
  atRest: () => Promise<void>
}

/** Tells when the user begins to scroll, type or drag, and when it is over. */
export function watchHands(told: (busy: boolean) => void, on: EventTarget = window, pause = usualPause): Hands {
  let timer: ReturnType<typeof setTimeout> | null = null
  const waiting: (() => void)[] = []
  const rest = () => {
    timer = null
    told(false)
    for (const go of waiting.splice(0)) go()
  }
  const move = () => {
    if (timer === null) told(true)
    else clearTimeout(timer)
    timer = setTimeout(rest, pause)
  }
  for (const type of ['scroll', 'wheel', 'keydown', 'dragover']) on.addEventListener(type, move, { capture: true, passive: true })
  on.addEventListener('pointermove', (event) => (event as PointerEvent).buttons > 0 && move(), { capture: true, passive: true })
  const areBusy = () => timer !== null
  return { areBusy, atRest: () => (areBusy() ? new Promise((go) => waiting.push(go)) : Promise.resolve()) }
}
