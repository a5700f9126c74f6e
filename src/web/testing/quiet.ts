/** Waits until what was started has come to its end, a few turns of the loop. */
export async function quiet(): Promise<void> {
  for (let i = 0; i < 20; i++) await new Promise((done) => setImmediate(done))
}
