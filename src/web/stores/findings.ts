import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Finding } from '../../core/check/result.ts'
import type { KindName } from '../../core/plan/kinds.ts'
import { byId, inOrder, keysOf, type Records, type Row } from '../../core/plan/records.ts'
import { findingWord } from '../../core/view/finding-words.ts'
import { useCheckStore } from './check.ts'
import { usePlanStore } from './plan.ts'
import { useSelectionStore } from './selection.ts'

const severities = ['fault', 'risk', 'note'] as const
export type Severity = (typeof severities)[number]

/** The same finding in another check of the plan has the same key. */
export function keyOf({ id, item, route, profile }: Finding): string {
  return [id, item.kind, item.id, route, profile].join(' ')
}

/** By item that something was found about, as kind and id: the key of the place that it lies in. */
function placesOf(records: Records, found: readonly Finding[]): ReadonlyMap<string, string> {
  const places = keysOf(records, 'place')
  const about = (kind: KindName) => new Set(found.flatMap(({ item }) => (item.kind === kind ? [item.id] : [])))
  const lies = <K extends 'place' | 'source' | 'gate' | 'passage'>(kind: K, placeOf: (row: Row<K>) => string | null | undefined): [string, string][] => {
    const ids = about(kind)
    return ids.size === 0 ? [] : inOrder(records, kind).flatMap((row): [string, string][] => (ids.has(row.id) ? [[`${kind} ${row.id}`, placeOf(row) ?? '']] : []))
  }
  return new Map([...lies('place', ({ key }) => key), ...lies('source', ({ place }) => place), ...lies('gate', ({ place }) => place), ...lies('passage', ({ from }) => places.get(from))])
}

/** What was found in the plan: filtered, gone through one by one, and the one that is being looked at. */
export const useFindingsStore = defineStore('findings', () => {
  const plan = usePlanStore()
  const check = useCheckStore()
  const selection = useSelectionStore()
  /** Only findings of this kind, or of items in the place with this key; '': all. */
  const kind = ref('')
  const place = ref('')
  const folded = ref(new Set<Severity>(['note']))
  const currentKey = ref<string | null>(null)
  /** Where the one looked at stood, so that going on from one that is gone goes on there. */
  let lastIndex = -1

  const all = computed(() => {
    const found = [...check.lockoutFindings, ...check.findings]
    return severities.flatMap((severity) => found.filter((one) => one.severity === severity))
  })
  const placeOf = computed(() => (plan.records ? placesOf(plan.records, all.value) : new Map<string, string>()))
  const placeKey = ({ item }: Finding) => placeOf.value.get(`${item.kind} ${item.id}`) ?? ''
  const kinds = computed(() => [...new Map(all.value.map((found) => [found.id, findingWord(found)]))].sort(([, a], [, b]) => a.localeCompare(b)))
  const places = computed(() => {
    const keys = new Set(all.value.map(placeKey))
    return plan.records ? inOrder(plan.records, 'place').filter((row) => keys.has(row.key)) : []
  })
  const shown = computed(() => all.value.filter((found) => (!kind.value || found.id === kind.value) && (!place.value || placeKey(found) === place.value)))
  const groups = computed(() => severities.map((severity) => ({ severity, found: shown.value.filter((one) => one.severity === severity) })).filter((group) => group.found.length))
  /** Those that `n` and `p` step through. */
  const steps = computed(() => shown.value.filter((found) => !folded.value.has(found.severity)))
  const index = computed(() => steps.value.findIndex((found) => keyOf(found) === currentKey.value))
  const current = computed(() => all.value.find((found) => keyOf(found) === currentKey.value) ?? null)

  watch(index, (now) => {
    if (now >= 0) lastIndex = now
  })
  // Choosing something else leaves the finding.
  watch(() => selection.chosen, (chosen) => {
    const item = current.value?.item
    if (!item || !plan.records) return
    const row = chosen ? (plan.records[chosen.kind].get(chosen.key) as { id: string } | undefined) : undefined
    if (item.kind === 'plan' ? chosen : chosen?.kind !== item.kind || row?.id !== item.id) leave()
  })
  watch(() => plan.id, () => {
    kind.value = ''
    place.value = ''
    leave()
  })

  function toggle(severity: Severity): void {
    const next = new Set(folded.value)
    if (!next.delete(severity)) next.add(severity)
    folded.value = next
  }

  /** Shows a finding: its item is chosen, for a kind of player and on a route that it is about. */
  function choose(found: Finding): void {
    currentKey.value = keyOf(found)
    const { item, route, profile } = found
    if (item.kind === 'plan') return selection.clear()
    const row = plan.records && byId(plan.records, item.kind as KindName, item.id)
    if (!row) return
    selection.choose(item.kind as KindName, row.key)
    if (route === null || profile === null || !plan.records || `gate-${check.gate(item.id)?.verdict}` === found.id) return
    check.routeKey = byId(plan.records, 'route', route)?.key ?? check.routeKey
    check.profileKey = byId(plan.records, 'profile', profile)?.key ?? check.profileKey
  }

  function step(by: 1 | -1): boolean {
    const n = steps.value.length
    if (n === 0) return false
    const from = index.value >= 0 ? index.value : by === 1 ? Math.min(lastIndex, n) - (lastIndex < 0 ? 0 : 1) : Math.max(lastIndex, 0)
    choose(steps.value[(((from + by) % n) + n) % n]!)
    return true
  }

  function leave(): void {
    currentKey.value = null
  }

  return { kind, place, folded, all, kinds, places, shown, groups, steps, index, current, toggle, choose, step, leave }
})
