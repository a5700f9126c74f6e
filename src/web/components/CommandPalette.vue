<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { allCommands, paletteOpen, type Command } from '../commands.ts'

const wanted = ref('')
const chosen = ref(0)
const field = ref<HTMLInputElement>()
const found = computed(() => allCommands().filter((command) => command.title.toLowerCase().includes(wanted.value.toLowerCase())))

watch(paletteOpen, (open) => {
  if (!open) return
  wanted.value = ''
  chosen.value = 0
})
watch(wanted, () => (chosen.value = 0))

function run(command: Command | undefined): void {
  paletteOpen.value = false
  if (command && command.enabled?.() !== false) void nextTick(command.run)
}

function move(by: number): void {
  chosen.value = Math.min(Math.max(chosen.value + by, 0), found.value.length - 1)
}
</script>

<template>
  <ElDialog v-model="paletteOpen" title="Commands" width="520" append-to-body @opened="field?.focus()">
    <input
      ref="field" v-model="wanted" class="field" placeholder="What do you want to do?" aria-label="Find a command"
      @keydown.down.prevent="move(1)" @keydown.up.prevent="move(-1)" @keydown.enter.prevent="run(found[chosen])"
    />
    <ul class="commands" role="listbox" aria-label="Commands">
      <li
        v-for="(command, i) in found" :key="command.id" role="option" :aria-selected="i === chosen"
        :class="{ chosen: i === chosen, off: command.enabled?.() === false }" @click="run(command)"
      >
        <span>{{ command.title }}</span><kbd v-if="command.keys">{{ command.keys }}</kbd>
      </li>
      <li v-if="!found.length" class="soft">No command has these letters.</li>
    </ul>
  </ElDialog>
</template>

<style scoped>
.field { width: 100%; padding: 8px 10px; border: 1px solid var(--line); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 14px; }
.commands { list-style: none; margin: 10px 0 0; padding: 0; max-height: 380px; overflow: auto; }
li { display: flex; justify-content: space-between; padding: 6px 10px; border-radius: 4px; cursor: pointer; color: var(--ink); }
li.chosen { background: var(--select); }
li.off { opacity: 0.5; }
kbd { font-family: var(--mono); font-size: 12px; color: var(--soft); }
</style>
