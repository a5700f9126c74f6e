/** What steps come to, taken without looking up between them. */
export function finished<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}
