<script setup lang="ts">
import { ElPopover } from 'element-plus'
import { ref } from 'vue'
import type { LaneChoice } from './use-lane-choice.ts'

/** Which lanes are shown, in which order, and which of them is wide. */
defineProps<{ choice: LaneChoice; crowded: { id: string; name: string }[] }>()
const isOpen = ref(false)
defineExpose({ toggle: () => (isOpen.value = !isOpen.value) })
</script>

<template>
  <ElPopover v-model:visible="isOpen" placement="bottom-end" :width="330" trigger="click">
    <template #reference>
      <button class="quiet open" :title="crowded.length ? `No room for: ${crowded.map((lane) => lane.name).join(', ')}` : 'Choose lanes'" data-test="lanes">Lanes{{ crowded.length ? ` +${crowded.length}` : '' }}</button>
    </template>
    <ul class="lanes" data-test="lane list">
      <li v-for="(lane, i) in choice.all.value" :key="lane.id">
        <label><input type="checkbox" :checked="choice.isShown(lane.id)" @change="choice.toggle(lane.id)" /> {{ lane.name }}</label>
        <button class="quiet" :disabled="choice.wide.value === lane.id" :aria-label="`${lane.name} wide`" @click="choice.widen(lane.id)">{{ choice.wide.value === lane.id ? 'wide' : 'widen' }}</button>
        <button class="quiet" :disabled="i === 0" :aria-label="`${lane.name} earlier`" @click="choice.move(lane.id, -1)">↑</button>
        <button class="quiet" :disabled="i === choice.all.value.length - 1" :aria-label="`${lane.name} later`" @click="choice.move(lane.id, 1)">↓</button>
      </li>
    </ul>
    <p v-if="crowded.length" class="soft">There is no room for the last {{ crowded.length }} of them.</p>
  </ElPopover>
</template>

<style scoped>
.open { font-size: 11px; padding: 3px 4px; white-space: nowrap; }
.lanes { list-style: none; margin: 0; max-height: 420px; overflow: auto; padding: 0; }
li { align-items: center; display: flex; }
label { flex: 1; overflow-wrap: anywhere; }
p { margin: 6px 0 0; }
</style>
