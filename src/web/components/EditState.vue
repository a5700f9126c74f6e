<script setup lang="ts">
import { computed } from 'vue'
import { dialogs } from '../commands.ts'
import { usePlanStore, type SaveState } from '../stores/plan.ts'

/** Whether what was done is saved, and the way back: by itself, for it changes with every edit, and the rest of the bar does not. */
const plan = usePlanStore()

const states: Record<SaveState, string> = {
  saved: 'Saved',
  saving: 'Saving …',
  offline: 'Server gone: kept here, sent when it is back',
  clash: 'Waits for your choice',
}
const stateText = computed(() => states[plan.saveState] + (plan.saveState === 'offline' && plan.pending.length ? ` (${plan.pending.length})` : ''))
</script>

<template>
  <span class="state" :class="plan.saveState" role="status" data-test="save-state">{{ stateText }}</span>
  <button class="quiet" :disabled="!plan.undoName" :title="plan.undoName ? `Undo: ${plan.undoName} (Ctrl+Z)` : 'Nothing to undo'" aria-label="Undo" data-test="undo" @click="plan.undo()">↶</button>
  <button class="quiet" :disabled="!plan.redoName" :title="plan.redoName ? `Redo: ${plan.redoName} (Ctrl+Shift+Z)` : 'Nothing to redo'" aria-label="Redo" data-test="redo" @click="plan.redo()">↷</button>
  <button class="quiet" title="History (h)" @click="dialogs.history = true">History</button>
</template>

<style scoped>
.state { color: var(--bar-soft); }
.state.offline, .state.clash { color: #f3c46b; font-weight: 600; }
</style>
