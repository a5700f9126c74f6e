<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Diff } from '../../../core/change/diff.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useTypedPreview } from '../../use-preview.ts'
import TurnsText from '../TurnsText.vue'

/** The verdicts that what is typed into a field would turn, while it is not taken yet. */
const props = defineProps<{ typed: string; change: () => Diff | null }>()
const plan = usePlanStore()
const turns = useTypedPreview(() => [props.typed, plan.records], () => props.change())
const told = ref<HTMLElement>()
// The field may be the last one in view, with no room under it.
watch(told, (element) => element?.scrollIntoView({ block: 'nearest' }), { flush: 'post' })
</script>

<template>
  <p v-if="turns.length" ref="told" class="typed" role="status"><TurnsText :turns="turns" :most="3" /></p>
</template>

<style scoped>
.typed { font-size: 11px; grid-column: 2; margin: 0; }
/* Names of gates may be longer than the field is wide. */
.typed :deep(.turn) { overflow-wrap: anywhere; white-space: normal; }
</style>
