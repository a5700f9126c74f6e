<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, ref } from 'vue'
import { dialogs } from '../commands.ts'
import { usePlanStore } from '../stores/plan.ts'

/** All that was done to the plan and can be undone, newest first, and what was undone above it: a click goes there. */
const plan = usePlanStore()
const list = ref<HTMLElement>()
const mostShown = 200

/** `steps`: how many to go, forward where above 0. */
const entries = computed(() => {
  const { undoable, redoable } = plan.history
  const ahead = redoable.map(({ name }, i) => ({ name, steps: redoable.length - i }))
  const behind = undoable.map(({ name }, i) => ({ name, steps: i + 1 - undoable.length })).reverse()
  return [...ahead, ...behind.slice(0, mostShown), ...(behind.length <= mostShown ? [{ name: 'the plan as it was before', steps: -undoable.length }] : [])]
})

function goTo(steps: number): void {
  plan.goTo(steps)
  dialogs.history = false
}

function focusNow(): void {
  list.value?.querySelector<HTMLElement>('[aria-current]')?.focus()
}

function move(event: KeyboardEvent, by: 1 | -1): void {
  const buttons = [...(list.value?.querySelectorAll('button') ?? [])]
  buttons[buttons.indexOf(event.target as HTMLButtonElement) + by]?.focus()
}
</script>

<template>
  <ElDialog v-model="dialogs.history" title="History" width="520" append-to-body @opened="focusNow">
    <p v-if="entries.length < 2" class="soft">Nothing has been changed yet.</p>
    <ol v-else ref="list" data-test="history">
      <li v-for="(entry, i) in entries" :key="i" :class="{ ahead: entry.steps > 0, now: entry.steps === 0 }">
        <button :aria-current="entry.steps === 0 ? 'step' : undefined" @click="goTo(entry.steps)" @keydown.down.prevent="move($event, 1)" @keydown.up.prevent="move($event, -1)">{{ entry.name }}<span class="soft">{{ entry.steps === 0 ? 'now' : entry.steps > 0 ? 'redo to here' : '' }}</span></button>
      </li>
    </ol>
  </ElDialog>
</template>

<style scoped>
ol { list-style: none; margin: 0; max-height: 60vh; overflow: auto; padding: 2px; }
button { background: none; border: 0; border-radius: 4px; color: var(--ink); cursor: pointer; display: flex; font-size: 13px; gap: 12px; justify-content: space-between; padding: 5px 8px; text-align: left; width: 100%; }
button:hover { background: var(--select); }
.now button { background: var(--mark); font-weight: 600; }
.ahead button { color: var(--soft); }
</style>
