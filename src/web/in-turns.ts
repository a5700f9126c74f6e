export interface Turns<S> {
  /** Lets others have their turn. */
  pause: () => Promise<void>
  /** Is told of a step before which others had theirs. */
  tell?: (step: S) => void
  /** For how many milliseconds something is worked out before that. */
  turn?: number
}

/** What steps come to, with a pause now and then: they are many, and short. Null where it is not wanted any more. */
export async function inTurns<S, T>(steps: Generator<S, T>, isWanted: () => boolean, { pause, tell, turn = 8 }: Turns<S>): Promise<T | null> {
  for (let began = performance.now(); ; ) {
    const step = steps.next()
    if (step.done) return step.value
    if (performance.now() - began < turn) continue
    await pause()
    if (!isWanted()) return null
    tell?.(step.value)
    began = performance.now()
  }
}
