/** What steps come to, taken without looking up between them. */
export function finished<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** The same steps, each of which tells something else. */
export function* retold<S, U, T>(steps: Generator<S, T>, as: (step: S) => U): Generator<U, T> {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    yield as(step.value)
  }
}

/** The same steps, each of which tells of one share that is done. */
export function telling<T>(share: number, steps: Generator<unknown, T>): Generator<number, T> {
  return retold(steps, () => share)
}
