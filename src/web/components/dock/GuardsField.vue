<script setup lang="ts">
import { computed } from 'vue'
import type { Guards } from '../../../core/plan/gate.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import ChoiceSelect from '../ChoiceSelect.vue'
import { choicesOf } from '../choices.ts'

/** What a gate bars: nothing, one passage, or every passage into one place. */
const props = defineProps<{ inputId: string; value: unknown; records: Records }>()
const emit = defineEmits<{ take: [value: Guards | null] }>()

const guards = computed(() => props.value as Guards | null)
const chosen = computed(() => (guards.value?.passage ? `passage ${guards.value.passage}` : guards.value?.place ? `place ${guards.value.place}` : ''))
const places = computed(() => inOrder(props.records, 'place'))
const passages = computed(() => inOrder(props.records, 'passage'))
const choices = computed(() => {
  const names = new Map(places.value.map(({ id, name }) => [id, name || id]))
  return [
    { value: '', text: 'no way' },
    { label: 'A passage', choices: passages.value.map(({ id, from, to, twoWay }) => ({ value: `passage ${id}`, text: `${names.get(from)} ${twoWay ? '↔' : '→'} ${names.get(to)}` })) },
    { label: 'Every way into a place', choices: choicesOf(places.value, ({ id }) => `place ${id}`) },
  ]
})

function take(chosen: string): void {
  const [kind, id] = chosen.split(' ')
  emit('take', id === undefined ? null : kind === 'passage' ? { passage: id } : { place: id })
}
</script>

<template>
  <ChoiceSelect :input-id="inputId" :value="chosen" :choices="choices" test="field guards" @choose="take" />
</template>
