<script setup lang="ts">
import type { Diff } from '../../../core/change/diff.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useTypedPreview } from '../../use-preview.ts'
import TurnsText from '../TurnsText.vue'

/** The verdicts that what is typed into a field would turn, while it is not taken yet. */
const props = defineProps<{ typed: string; change: () => Diff | null }>()
const plan = usePlanStore()
const turns = useTypedPreview(() => [props.typed, plan.records], () => props.change())
</script>

<template>
  <p v-if="turns.length" class="typed" role="status"><TurnsText :turns="turns" :most="3" /></p>
</template>

<style scoped>
.typed { font-size: 11px; grid-column: 2; margin: 0; }
</style>
