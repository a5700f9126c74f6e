<script setup lang="ts" generic="T">
import { computed, ref } from 'vue'
import { countText } from '../../core/view/numbers.ts'

/** Entries of a list that may hold thousands: the first of them, or the last, and more when they are asked for. */
const props = withDefaults(defineProps<{ items: readonly T[]; name: string; last?: boolean; atFirst?: number }>(), { atFirst: 100 })

const page = 100
const room = ref(props.atFirst)
const shown = computed(() => (props.last ? props.items.slice(-room.value) : props.items.slice(0, room.value)))
const left = computed(() => props.items.length - shown.value.length)
</script>

<template>
  <li v-if="left > 0 && last" class="more"><button class="quiet" :data-test="`more ${name}`" @click="room += page">Show {{ Math.min(page, left) }} more of {{ countText(left, 'line') }} before</button></li>
  <template v-for="item in shown"><slot :item="item" /></template>
  <li v-if="left > 0 && !last" class="more"><button class="quiet" :data-test="`more ${name}`" @click="room += page">Show {{ Math.min(page, left) }} more of {{ countText(left, 'other') }}</button></li>
</template>

<style scoped>
.more { display: block; }
.quiet { border-color: var(--line); font-size: 12px; margin: 4px 0; padding: 2px 6px; }
</style>
