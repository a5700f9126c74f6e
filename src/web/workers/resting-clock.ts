/** Whether the user's hands are busy, in memory that threads share: one that searches on and on hears no message. null: it cannot be shared here. */
export type BusyFlag = Int32Array<SharedArrayBuffer> | null

const [atRest, busy] = [0, 1]

export function busyFlag(): BusyFlag {
  return typeof SharedArrayBuffer === 'undefined' ? null : new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT))
}

export function setBusy(flag: BusyFlag, isBusy: boolean): void {
  if (!flag) return
  Atomics.store(flag, 0, isBusy ? busy : atRest)
  Atomics.notify(flag, 0)
}

/** A clock in milliseconds for a thread that nobody waits for. It stands still while hands are busy, and so does the thread that asks it. */
export function restingClock(flag: BusyFlag): () => number {
  let rested = 0
  return () => {
    const asked = performance.now()
    while (flag && Atomics.load(flag, 0) === busy) Atomics.wait(flag, 0, busy)
    rested += performance.now() - asked
    return performance.now() - rested
  }
}
