<script setup lang="ts">
import { computed } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { numberText } from '../../../core/view/numbers.ts'
import type { ProfileView } from '../../workers/check.worker.ts'

/** The levels of all characters beside each other, stop by stop, as one kind of player has them on leaving. */
const props = defineProps<{ records: Records; everyone: ProfileView[]; profileKey: string | null }>()
const characters = computed(() => inOrder(props.records, 'character'))
const names = computed(() => new Map(inOrder(props.records, 'place').map((place) => [place.id, labelOf(place)])))
const view = computed(() => props.everyone.find((one) => one.key === props.profileKey) ?? props.everyone[0])
const rows = computed(() => (view.value?.stops ?? []).map((stop) => ({ name: names.value.get(stop.place) ?? stop.place, levels: characters.value.map(({ id }) => stop.levels[id]?.median ?? null) })))
</script>

<template>
  <section v-if="characters.length > 1" data-test="compared">
    <h3>Characters compared</h3>
    <p class="soft">Levels on leaving, {{ view?.name ?? 'no kind of player' }}, in the middle.</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Levels of all characters">
      <table>
        <thead><tr><th>place</th><th v-for="character in characters" :key="character.key" class="num">{{ labelOf(character) }}</th></tr></thead>
        <tbody><tr v-for="(row, i) in rows" :key="i"><td>{{ row.name }}</td><td v-for="(level, c) in row.levels" :key="c" class="num">{{ level === null ? '–' : numberText(level) }}</td></tr></tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
h3 { border-top: 1px solid var(--line); font-size: 13px; margin: 12px 0 4px; padding-top: 8px; }
p { margin: 2px 0; }
.scroll { max-height: 260px; overflow: auto; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
th { background: var(--paper); color: var(--soft); font-weight: 400; position: sticky; text-align: left; top: 0; vertical-align: bottom; }
th.num { text-align: right; }
td { border-top: 1px solid var(--line); padding: 1px 4px; }
</style>
