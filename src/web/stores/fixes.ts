import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Fix } from '../../core/check/fixes/fix.ts'
import { isTrouble, type GateResult } from '../../core/check/result.ts'
import { useCheckStore } from './check.ts'
import { usePlanStore } from './plan.ts'
import { LongSearch } from '../workers/long-search.ts'

/** Changes that would make the chosen gate clear, looked for one after another; each was tried before it is offered. */
export const useFixesStore = defineStore('fixes', () => {
  const plan = usePlanStore()
  const check = useCheckStore()
  const fixes = shallowRef<Fix[]>([])
  const isLooking = ref(false)
  /** The gate that they are for. */
  const gateKey = ref<string | null>(null)
  /** The last one taken, until another gate is looked at. */
  const taken = shallowRef<{ gate: string; fix: Fix } | null>(null)
  const search = new LongSearch(check.handPlan)

  function stop(): void {
    search.end()
    isLooking.value = false
  }

  /** Looks for the fixes of a gate with this result; what was looked for before is given up. */
  async function look(gate: string, result: GateResult): Promise<void> {
    stop()
    fixes.value = []
    gateKey.value = gate
    if (taken.value?.gate !== gate) taken.value = null
    const { records } = plan
    const { routeKey: route, profileKey: profile, areAllKnown } = check
    if (!records || !route || !profile || !areAllKnown || !isTrouble(result.verdict)) return
    isLooking.value = true
    const ended = await search.ask(async (remote, isAsked) => {
      await remote.fixes({ route, profile, gate }, result, proxy((fix: Fix) => {
        if (isAsked() && plan.records === records) fixes.value = [...fixes.value, fix]
      }))
      return true
    })
    if (ended) isLooking.value = false
  }

  /** Makes a fix, as one step that can be undone. */
  function apply(fix: Fix): void {
    if (gateKey.value) taken.value = { gate: gateKey.value, fix }
    fixes.value = []
    plan.edit(fix.diff)
  }

  return { fixes, isLooking, gateKey, taken, look, stop, apply }
})
