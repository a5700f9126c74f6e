<script setup lang="ts">
import type { Verdict } from '../../core/check/result.ts'

/** A gate's peg: a bar with a head that tells the verdict by its shape as well as its colour. */
defineProps<{ verdict: Verdict | undefined; x?: number; y?: number; tall?: number }>()
</script>

<template>
  <g :transform="`translate(${x ?? 0},${y ?? 0})`" :class="`verdict-${verdict ?? 'off_route'}`">
    <line v-if="tall" x1="0" :y1="4" x2="0" :y2="tall" stroke="currentColor" stroke-width="2" />
    <circle v-if="verdict === 'clear'" r="4.5" fill="currentColor" />
    <template v-else-if="verdict === 'depends'">
      <circle r="4" fill="var(--paper)" stroke="currentColor" stroke-width="1.6" />
      <path d="M0 -4 A4 4 0 0 1 0 4 Z" fill="currentColor" />
    </template>
    <path v-else-if="verdict === 'short'" d="M2.6 -3.2 A4.1 4.1 0 1 0 4.1 0.6" fill="none" stroke="currentColor" stroke-width="2" />
    <template v-else-if="verdict === 'sealed'">
      <circle r="4.5" fill="currentColor" />
      <path d="M-2 -2 L2 2 M2 -2 L-2 2" stroke="var(--paper)" stroke-width="1.5" />
    </template>
    <line v-else x1="0" y1="-3" x2="0" y2="4" stroke="currentColor" stroke-width="2" />
  </g>
</template>
