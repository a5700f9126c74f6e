<script setup lang="ts">
import { ElSelectV2 } from 'element-plus'
import { computed } from 'vue'
import type { Choice, ChoiceGroup } from './choices.ts'

/** One of a few choices in the browser's own list; one of many in a list that is searched by typing, and draws only what is in view. */
const props = defineProps<{ value: string; choices: readonly (Choice | ChoiceGroup)[]; label?: string; inputId?: string; test: string }>()
const emit = defineEmits<{ choose: [value: string] }>()

/** In pixels: names of places with what is told of them. */
const listWidth = 300
/** More than that nobody looks through. */
const few = 100
const isGroup = (one: Choice | ChoiceGroup): one is ChoiceGroup => 'choices' in one
const count = computed(() => props.choices.reduce((sum, one) => sum + (isGroup(one) ? one.choices.length : 1), 0))
const groups = computed(() => props.choices.filter(isGroup))
const singles = computed(() => props.choices.filter((one): one is Choice => !isGroup(one)))
/** As the searched list has them. */
const names = { label: 'text', options: 'options' }
const searched = computed(() => [...singles.value, ...groups.value.map(({ label, choices }) => ({ value: label, text: label, options: choices }))] as never[])
</script>

<template>
  <select v-if="count <= few" :id="inputId" class="choice" :value="value" :aria-label="label" :data-test="test" @change="emit('choose', ($event.target as HTMLSelectElement).value)">
    <option v-for="one in singles" :key="one.value" :value="one.value">{{ one.text }}</option>
    <optgroup v-for="group in groups" :key="group.label" :label="group.label">
      <option v-for="one in group.choices" :key="one.value" :value="one.value">{{ one.text }}</option>
    </optgroup>
  </select>
  <ElSelectV2
    v-else :id="inputId" class="choice" :model-value="value" :options="searched" :props="names" filterable :empty-values="[undefined]" :aria-label="label" :data-test="test"
    :fit-input-width="listWidth" :show-arrow="false" :fallback-placements="['bottom-end', 'top-start', 'top-end']" popper-class="choices" no-match-text="Nothing has that in its name." @update:model-value="(chosen: string) => emit('choose', chosen)"
  />
</template>

<style scoped>
select.choice { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; }
div.choice { --el-color-primary: var(--accent); min-width: 0; }
div.choice :deep(.el-select__wrapper) { background: var(--raised); border-radius: 4px; box-shadow: inset 0 0 0 1px var(--line); font-size: 13px; gap: 4px; line-height: 20px; min-height: 29px; padding: 3px 6px; }
div.choice :deep(.el-select__wrapper.is-focused) { box-shadow: inset 0 0 0 2px var(--accent); }
div.choice :deep(.el-select__selected-item), div.choice :deep(.el-select__input) { color: var(--ink); outline: none; }
</style>

<style>
.choices { --el-color-primary: var(--accent); }
.choices .el-select-dropdown__item { font-size: 13px; padding: 0 12px; }
</style>
