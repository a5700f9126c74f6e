<script setup lang="ts">
import { nextTick } from 'vue'
import type { MissingTally, TallyKind } from '../../../core/change/missing-tally.ts'
import { useMissingTally } from '../../use-missing-tally.ts'

/** Adds a tally that a field names and the plan has not. */
const props = defineProps<{ tally: MissingTally }>()
/** Once the plan has it; or why it cannot have it. */
const emit = defineEmits<{ added: []; refused: [says: string] }>()
const add = useMissingTally()

function addAs(kind: TallyKind): void {
  const says = add(props.tally, kind)
  if (says !== null) emit('refused', says)
  else void nextTick(() => emit('added'))
}
</script>

<template>
  <p class="missing" data-test="missing tally">Add <span class="mono">{{ tally.id }}</span> as <template v-for="(kind, i) in tally.kinds" :key="kind">{{ i ? ', ' : '' }}<button class="link" type="button" @mousedown.prevent @click="addAs(kind)">{{ kind }}</button></template></p>
</template>

<style scoped>
.missing { font-size: 11px; grid-column: 2; margin: 0; }
.link { background: none; border: 0; color: var(--accent); cursor: pointer; font-size: 11px; font-weight: 600; padding: 1px 0; text-decoration: underline; }
</style>
