<script setup lang="ts">
import { computed } from 'vue'
import { verdictWords } from '../../core/view/verdict-text.ts'
import type { Turn } from '../../core/view/turns.ts'
import VerdictMark from './VerdictMark.vue'

/** Verdicts that a change would alter, old → new, and those of gates that it adds. null: they are being worked out. */
const props = defineProps<{ turns: readonly Turn[] | null; most?: number }>()
const shown = computed(() => (props.turns ?? []).slice(0, props.most ?? 4))
</script>

<template>
  <span class="turns" data-test="turns">
    <span v-if="turns === null" class="soft">working it out …</span>
    <span v-else-if="!turns.length" class="soft">no verdict changes</span>
    <template v-else>
      <span v-for="turn in shown" :key="turn.gate" class="turn">
        {{ turn.name }}
        <template v-if="turn.before"><svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="turn.before" /></svg>{{ verdictWords[turn.before].one }} → </template>
        <template v-else>will be </template>
        <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="turn.after" /></svg><b :class="`verdict-${turn.after}`">{{ verdictWords[turn.after].one }}</b>
      </span>
      <span v-if="turns.length > shown.length" class="soft">and {{ turns.length - shown.length }} more</span>
    </template>
  </span>
</template>

<style scoped>
.turns { display: inline-flex; flex-wrap: wrap; gap: 0 12px; }
.turn { white-space: nowrap; }
svg { margin-right: 2px; vertical-align: -2px; }
</style>
