import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import type { GateResult } from '../../core/check/result.ts'
import { keysOf } from '../../core/plan/records.ts'
import { turnedBetween, type Turned } from '../../core/view/turns.ts'
import { useCalm } from '../use-calm.ts'
import { useCheckStore } from './check.ts'
import { usePlanStore } from './plan.ts'
import { useSelectionStore } from './selection.ts'

const none: readonly Turned[] = []

/**
 * Verdicts that the last change of the plan turned, for the route and the kind of player that are looked at: whatever it was made with,
 * by undoing, and by somebody else, too. What comes without a rest in between is one change.
 */
export const useTurnedStore = defineStore('turned', () => {
  const plan = usePlanStore()
  const check = useCheckStore()
  const selection = useSelectionStore()
  const turns = shallowRef(none)
  /** What is shown of them: it follows the verdicts themselves, which are shown first. */
  const { calm: shown } = useCalm(() => turns.value, { isBusy: () => check.isStale })
  const byGate = computed(() => new Map(shown.value.map((turn) => [turn.gate, turn])))
  /** The verdicts that were last known in full, and of what. */
  let known: { of: string; gates: readonly GateResult[] } | null = null

  watch(() => check.look, (look) => {
    if (look === null) turns.value = none
    if (look !== 'settled' || !plan.records) return
    const of = JSON.stringify([plan.id, check.routeKey, check.profileKey])
    const gates = check.gatesInAll
    if (known?.of === of) turns.value = turnedBetween(known, { gates }, plan.records)
    known = { of, gates }
  }, { flush: 'sync', immediate: true })

  /** Shows one of these gates, and the next one each time. */
  function step(): void {
    if (!plan.records) return
    const keys = keysOf(plan.records, 'gate')
    const there = turns.value.flatMap(({ gate }) => keys.get(gate) ?? [])
    const next = there[(there.indexOf(selection.chosen?.key ?? '') + 1) % there.length]
    if (next !== undefined) selection.choose('gate', next)
  }

  return { turns, shown, byGate, step }
})
