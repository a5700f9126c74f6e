<script setup lang="ts" generic="T">
import { computed, ref } from 'vue'
import { countText } from '../../core/view/numbers.ts'

/** Entries of a list that may hold thousands: the first of them, or the last, and more when they are asked for. */
const props = withDefaults(defineProps<{ items: readonly T[]; name: string; last?: boolean; atFirst?: number }>(), { atFirst: 100 })

const page = 100
const room = ref(props.atFirst)
const shown = computed(() => (props.last ? props.items.slice(-room.value) : props.items.slice(0, room.value)))
const left = computed(() => props.items.length - shown.value.length)
const says = computed(() => `Show ${Math.min(page, left.value)} more of ${props.last ? `${countText(left.value, 'line')} before` : countText(left.value, 'other')}`)
/** What is left out stands where it would be. */
const parts = computed(() => (left.value === 0 ? ['shown'] : props.last ? ['more', 'shown'] : ['shown', 'more']))
</script>

<template>
  <template v-for="part in parts" :key="part">
    <template v-if="part === 'shown'"><slot v-for="item in shown" :item="item" /></template>
    <li v-else class="more"><button class="quiet" :data-test="`more ${name}`" @click="room += page">{{ says }}</button></li>
  </template>
</template>

<style scoped>
.more { display: block; }
.quiet { border-color: var(--line); font-size: 12px; margin: 4px 0; padding: 2px 6px; }
</style>
