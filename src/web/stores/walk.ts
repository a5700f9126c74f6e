import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { impossible, replay, type WalkMove, type WalkStart } from '../../core/play/walk.ts'
import { compile } from '../../core/rules/compile.ts'
import { usePlanStore } from './plan.ts'

/** The walk that is being played by hand; it is played anew with every change of the plan. */
export const useWalkStore = defineStore('walk', () => {
  const plan = usePlanStore()
  const start = shallowRef<WalkStart>({ at: 'start' })
  const moves = shallowRef<WalkMove[]>([])
  const undone = shallowRef<WalkMove[]>([])
  /** Why the last thing that was tried cannot be done. */
  const refusal = ref<{ move: WalkMove; says: string } | null>(null)

  const game = computed(() => (plan.records ? compile(plan.records).game : null))
  const walk = computed(() => (game.value ? replay(game.value, start.value, moves.value) : null))
  const state = computed(() => walk.value?.steps.at(-1)?.state ?? walk.value?.first ?? null)
  const place = computed(() => (game.value && state.value ? game.value.places[state.value.place] : undefined))

  watch(() => plan.id, () => begin({ at: 'start' }))

  function begin(from: WalkStart): void {
    start.value = from
    moves.value = []
    undone.value = []
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
    moves.value = [...moves.value.slice(0, walk.value.steps.length), move]
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

  return { start, moves, undone, refusal, game, walk, state, place, begin, follow, make, undo, redo, jump }
})
