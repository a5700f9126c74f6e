import { computed, ref, type Ref } from 'vue'
import { keysOf } from '../../../core/plan/records.ts'
import type { MapLayout } from '../../../core/view/map-layout.ts'
import { witnessParts } from '../../../core/view/witness.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** A lock-out's witness, played through the map place by place. `show` brings a place into sight. */
export function useWitness(layout: Ref<MapLayout | null>, show: (key: string) => void) {
  const plan = usePlanStore()
  const check = useCheckStore()
  const witnessOf = ref<'stuck' | 'forcedGrind' | null>(null)
  const witnessAt = ref(0)
  const witness = computed(() => {
    const moves = witnessOf.value && check.lockouts?.[witnessOf.value].witness
    if (!moves || !plan.records) return null
    const keys = keysOf(plan.records, 'place')
    const parts = witnessParts(plan.records, moves).map((part) => ({ ...part, key: keys.get(part.id) ?? '' }))
    return { parts, missing: check.lockouts![witnessOf.value!].missing }
  })
  const witnessPath = computed(() => (witness.value && layout.value ? witness.value.parts.slice(0, witnessAt.value + 1).flatMap(({ key }) => layout.value!.places[key] ?? []) : []))
  const lockoutWords = { stuck: 'Stuck …', forcedGrind: 'Grind …' } as const
  const lockoutTitles = { stuck: 'How a player gets stuck, move by move', forcedGrind: 'How a player is forced to grind, move by move' } as const
  const lockoutsFound = computed(() => (Object.keys(lockoutWords) as (keyof typeof lockoutWords)[]).filter((part) => check.lockouts?.[part].result === 'found'))

  function follow(part: keyof typeof lockoutWords): void {
    witnessOf.value = witnessOf.value === part ? null : part
    witnessAt.value = 0
  }
  function followTo(at: number): void {
    witnessAt.value = Math.min(Math.max(at, 0), (witness.value?.parts.length ?? 1) - 1)
    const key = witness.value?.parts[witnessAt.value]?.key
    if (key) show(key)
  }

  return { witnessOf, witnessAt, witness, witnessPath, lockoutWords, lockoutTitles, lockoutsFound, follow, followTo }
}
