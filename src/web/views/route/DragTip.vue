<script setup lang="ts">
import TurnsText from '../../components/TurnsText.vue'
import type { Drag } from './use-drag.ts'

/** Beside the pointer while something is dragged: what it becomes, and the verdicts that it alters. */
defineProps<{ drag: Drag }>()
</script>

<template>
  <div class="tip" :style="{ left: `${Math.max(8, drag.x - 330)}px`, top: `${drag.y + 18}px` }" role="status" data-test="drag">
    <b>{{ drag.says }}</b>
    <TurnsText v-if="drag.diff" :turns="drag.turns" />
    <span v-else class="soft">as it is</span>
  </div>
</template>

<style scoped>
.tip { background: var(--raised); border: 1px solid var(--line); border-radius: 6px; box-shadow: 0 4px 16px rgb(0 0 0 / 18%); display: grid; font-size: 12px; max-width: 340px; padding: 6px 10px; pointer-events: none; position: fixed; z-index: 50; }
</style>
