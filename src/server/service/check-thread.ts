import type { MessagePort } from 'node:worker_threads'
import { checkInSteps, type CheckProgress } from '../../core/check/check.ts'
import type { CheckOptions } from '../../core/check/result.ts'
import type { PlainRecords } from '../../core/plan/records.ts'

export interface CheckTask {
  records: PlainRecords
  options: CheckOptions
  /** For how many milliseconds fixes are looked for. */
  fixing: number
  /** Told of the progress. */
  port: MessagePort
}

/** What runs in a thread of its own: one check, told of between its steps. It hands over the document as text: who only sends it on need not take it apart. */
export default function checkInThread({ records, options, fixing, port }: CheckTask): Uint8Array {
  const now = () => performance.now()
  let until: number | null = null
  const steps = checkInSteps(records, { ...options, ...(options.lockouts !== false && { lockouts: { now } }), fixes: () => now() < (until ??= now() + fixing) })
  for (let told = ''; ; ) {
    const step = steps.next()
    if (step.done) return new TextEncoder().encode(JSON.stringify(step.value.result))
    const { part, share } = step.value satisfies CheckProgress
    // Steps are many, and most of them no news.
    const percent = `${part} ${Math.floor(share * 100)}`
    if (percent !== told) port.postMessage(step.value)
    told = percent
  }
}
