<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { toldOf } from '../../../core/play/told.ts'
import { countText } from '../../../core/view/numbers.ts'
import { statsAt } from '../../../core/view/stat-table.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'
import { moveText } from './move-text.ts'

/** Every move with what it did, and between them what is expected and whether it holds. */
const plan = usePlanStore()
const walk = useWalkStore()

interface Expected {
  number: number
  text: string
  says: string | null
}
const expectedAfter = computed(() => {
  const by = new Map<number, Expected[]>()
  walk.expected.forEach(({ after, text, says, isReached }, number) => {
    if (isReached) by.set(after, [...(by.get(after) ?? []), { number, text, says }])
  })
  return by
})
const log = computed(() => {
  const { game, walk: played } = walk
  const { records } = plan
  if (!game || !played || !records) return []
  return played.steps.map((step, i) => ({
    i, gift: 'give' in step.move,
    text: 'go' in step.move ? `to ${game.places[step.state.place]!.name}` : moveText(records, step.move),
    told: toldOf(game, step, (c, level) => statsAt(records, c, level)),
  }))
})

const box = ref<HTMLElement>()
const end = ref<HTMLElement>()
const toEnd = () => end.value?.scrollIntoView({ block: 'nearest' })
watch(log, () => void nextTick(toEnd))
// What stands above may grow when a fault is told: the last moves stay in view, unless earlier ones are being read.
let isAtEnd = true
/** In pixels: what is left below the last move, or less than a line. */
const nearEnd = 16
function noteWhere() {
  const { scrollHeight, scrollTop, clientHeight } = box.value!
  isAtEnd = scrollHeight - scrollTop - clientHeight < nearEnd
}
useResizeObserver(box, () => {
  if (isAtEnd) toEnd()
})
</script>

<template>
  <section ref="box" class="log" aria-label="What happened" @scroll.passive="noteWhere">
    <h3>{{ countText(walk.moves.length, 'move') }} <span><button class="quiet" :disabled="!walk.moves.length" aria-label="Take a move back" title="Take a move back (u)" @click="walk.undo()">↶</button><button class="quiet" :disabled="!walk.undone.length" aria-label="Make it again" title="Make it again (y)" @click="walk.redo()">↷</button></span></h3>
    <p v-for="one in expectedAfter.get(0)" :key="one.text" class="expected" :class="{ fails: one.says }" data-test="expected"><b>{{ one.says ? '✗' : '✓' }}</b> <span>{{ one.says ?? one.text }}</span> <button class="quiet" :aria-label="`No longer expect ${one.text}`" @click="walk.forget(one.number)">×</button></p>
    <ol data-test="walk log">
      <li v-for="entry in log" :key="entry.i" :class="{ gift: entry.gift }">
        <button class="link" title="Back to here" @click="walk.jump(entry.i + 1)">{{ entry.text }}</button><span v-if="entry.told.length" class="told">{{ entry.told.join('; ') }}</span>
        <p v-for="one in expectedAfter.get(entry.i + 1)" :key="one.text" class="expected" :class="{ fails: one.says }" data-test="expected"><b>{{ one.says ? '✗' : '✓' }}</b> <span>{{ one.says ?? one.text }}</span> <button class="quiet" :aria-label="`No longer expect ${one.text}`" @click="walk.forget(one.number)">×</button></p>
      </li>
    </ol>
    <span ref="end" />
  </section>
</template>

<style scoped>
.log { flex: 1; min-height: 0; overflow: auto; padding: 10px 14px; }
h3 { align-items: center; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 6px; }
ol { margin: 0; padding-left: 30px; }
li { padding: 2px 0; }
li.gift .link { color: var(--depends); font-style: italic; }
.link { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 13px; font-weight: 600; padding: 0; text-align: left; }
.told { color: var(--soft); display: block; font-size: 12px; }
.expected { align-items: baseline; background: var(--panel); border-radius: 4px; color: var(--clear); display: grid; font-family: var(--mono); font-size: 12px; gap: 6px; grid-template-columns: auto minmax(0, 1fr) auto; margin: 2px 0; padding: 1px 2px 1px 6px; }
.expected.fails { color: var(--short); }
.expected .quiet { padding: 0 6px; }
</style>
