<script setup lang="ts">
/** What fits where something is typed: one is marked by arrow keys (see use-marked-option.ts), or taken by a click. `name`: of the list, for ids. */
defineProps<{ options: readonly { text: string; detail: string }[]; marked: number; name: string; label: string; keys: string }>()
const emit = defineEmits<{ take: [index: number] }>()
</script>

<template>
  <ul :id="name" class="options" role="listbox" :aria-label="label" :data-test="name">
    <li v-for="({ text, detail }, i) in options" :id="`${name}-${i}`" :key="`${text} ${detail}`" role="option" :aria-selected="i === marked" :class="{ marked: i === marked }" @mousedown.prevent.stop="emit('take', i)">
      <span class="mono">{{ text }}</span> <span class="soft">{{ detail }}</span>
    </li>
    <li class="soft keys" role="presentation">{{ keys }}</li>
  </ul>
</template>

<style scoped>
.options { background: var(--raised); border: 1px solid var(--line); border-radius: 6px; box-shadow: 0 4px 16px rgb(0 0 0 / 14%); color: var(--ink); font-family: var(--font); list-style: none; margin: 0; min-width: 280px; padding: 4px; position: absolute; z-index: 8; }
li { border-radius: 4px; cursor: pointer; padding: 3px 8px; }
li.marked, li:not(.keys):hover { background: var(--select); }
.mono { font-family: var(--mono); }
.keys { cursor: default; font-size: 11px; }
</style>
