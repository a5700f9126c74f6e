import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { addRecord, freeId, removeRecords, setFields } from '../../core/change/edits.ts'
import type { Row } from '../../core/plan/records.ts'
import { unmet } from '../../core/play/expect.ts'
import { fromOf, playedOf, startOf, stepsOf, type Expectation } from '../../core/play/saved-walk.ts'
import { impossible, replay, type WalkMove, type WalkStart } from '../../core/play/walk.ts'
import { compile } from '../../core/rules/compile.ts'
import { newKey } from '../new-key.ts'
import { usePlanStore } from './plan.ts'

/** The walk that is being played by hand; it is played anew with every change of the plan, and can be kept in it as a test. */
export const useWalkStore = defineStore('walk', () => {
  const plan = usePlanStore()
  const start = shallowRef<WalkStart>({ at: 'start' })
  const moves = shallowRef<WalkMove[]>([])
  const undone = shallowRef<WalkMove[]>([])
  const expects = shallowRef<Expectation[]>([])
  /** The walk of the plan that this one was opened from, or kept as. */
  const keptKey = ref<string | null>(null)
  /** Why the last thing that was tried cannot be done. */
  const refusal = ref<{ move: WalkMove; says: string } | null>(null)

  const compiled = computed(() => (plan.records ? compile(plan.records) : null))
  const game = computed(() => compiled.value?.game ?? null)
  const walk = computed(() => (game.value ? replay(game.value, start.value, moves.value) : null))
  const state = computed(() => walk.value?.steps.at(-1)?.state ?? walk.value?.first ?? null)
  const place = computed(() => (game.value && state.value ? game.value.places[state.value.place] : undefined))
  /** How many moves have been made, as far as they go. */
  const here = computed(() => walk.value?.steps.length ?? 0)
  const kept = computed(() => (keptKey.value ? plan.records?.walk.get(keptKey.value) : undefined))
  const entries = computed(() => stepsOf({ moves: moves.value, expects: expects.value.filter(({ after }) => after <= moves.value.length) }))
  const isChanged = computed(() => (kept.value ? JSON.stringify(kept.value.steps) !== JSON.stringify(entries.value) : entries.value.length > 0))
  /** What is expected, each with why it does not hold; null: it holds, or has not been come to. */
  const expected = computed(() => expects.value.map((one) => {
    const at = one.after === 0 ? walk.value?.first : walk.value?.steps[one.after - 1]?.state
    return { ...one, says: compiled.value && at ? unmet(compiled.value.game, compiled.value.index, at, one.text) : null, isReached: at !== undefined }
  }))

  watch(() => plan.id, () => begin({ at: 'start' }))

  function begin(from: WalkStart): void {
    start.value = from
    moves.value = []
    undone.value = []
    expects.value = []
    keptKey.value = null
    refusal.value = null
  }

  /** A walk from the plan's start with these moves, as far as they go. */
  function follow(all: readonly WalkMove[]): void {
    begin({ at: 'start' })
    moves.value = [...all]
  }

  /** Makes a move, or says why it cannot be made. What was broken by a change of the plan is left behind by going on. */
  function make(move: WalkMove): boolean {
    if (!game.value || !state.value || !walk.value) return false
    const says = impossible(game.value, state.value, move)
    refusal.value = says === null ? null : { move, says }
    if (says !== null) return false
    const before = walk.value.steps.length
    expects.value = expects.value.filter(({ after }) => after <= before)
    moves.value = [...moves.value.slice(0, before), move]
    undone.value = []
    return true
  }

  function undo(): void {
    const last = moves.value.at(-1)
    if (!last) return
    undone.value = [...undone.value, last]
    moves.value = moves.value.slice(0, -1)
    refusal.value = null
  }

  function redo(): void {
    const next = undone.value.at(-1)
    if (!next) return
    moves.value = [...moves.value, next]
    undone.value = undone.value.slice(0, -1)
  }

  /** To after so many moves; those behind can be redone. */
  function jump(count: number): void {
    while (moves.value.length > count) undo()
  }

  /** Expects something at this point of the walk, or no longer. */
  function expectHere(text: string): void {
    const isSame = (one: Expectation) => one.after === here.value && one.text === text
    expects.value = expects.value.some(isSame) ? expects.value.filter((one) => !isSame(one)) : [...expects.value, { after: here.value, text }]
  }
  function isExpectedHere(text: string): boolean {
    return expects.value.some((one) => one.after === here.value && one.text === text)
  }
  function forget(number: number): void {
    expects.value = expects.value.filter((_, i) => i !== number)
  }

  /** Keeps the walk in the plan, as one step that can be undone: as the one it was opened from, or as a new one. */
  function keep(name: string): void {
    const { records } = plan
    if (!records) return
    const steps = entries.value
    if (kept.value) return void plan.edit(setFields(records, 'walk', kept.value.key, { name, steps, from: fromOf(records, start.value) }, `change the walk ${name}`))
    const key = newKey()
    plan.edit({ ...addRecord(records, 'walk', key, { id: freeId(records, 'walk', name), name, from: fromOf(records, start.value), steps }), name: `keep the walk ${name}` })
    keptKey.value = key
  }

  /** Opens a walk that the plan keeps. Where what it begins from is gone, it begins at the start. */
  function open(row: Row<'walk'>): void {
    if (!plan.records) return
    begin(startOf(plan.records, row) ?? { at: 'start' })
    const played = playedOf(row)
    moves.value = played.moves
    expects.value = played.expects
    keptKey.value = row.key
  }

  function remove(row: Row<'walk'>): void {
    if (!plan.records) return
    plan.edit(removeRecords(plan.records, [{ kind: 'walk', key: row.key }]))
    if (keptKey.value === row.key) keptKey.value = null
  }

  return { start, moves, undone, refusal, game, walk, state, place, here, kept, expected, isChanged, begin, follow, make, undo, redo, jump, expectHere, isExpectedHere, forget, keep, open, remove }
})
