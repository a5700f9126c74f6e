import { quiet } from './quiet.ts'

/** Timers that wait until they are told to run out: nobody sleeps in a test. `remove` gives back what was there before. */
export function holdTimers() {
  const before = { setTimeout: globalThis.setTimeout, clearTimeout: globalThis.clearTimeout }
  const waiting = new Map<number, () => void>()
  let last = 0
  Object.assign(globalThis, {
    setTimeout: (act: () => void) => {
      waiting.set(++last, act)
      return last
    },
    clearTimeout: (timer: number) => waiting.delete(timer),
  })

  /** Runs all timers out, and those that are set by what they start, until none is left. */
  async function runOut(): Promise<void> {
    while (waiting.size) {
      const acts = [...waiting.values()]
      waiting.clear()
      for (const act of acts) act()
      await quiet()
    }
  }

  return { runOut, remove: () => void Object.assign(globalThis, before) }
}
