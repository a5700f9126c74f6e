<script setup lang="ts">
import { computed } from 'vue'
import { setFields } from '../../../core/change/edits.ts'
import { amountText } from '../../../core/exchange/gives.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { Records, Row } from '../../../core/plan/records.ts'
import { capsOf } from '../../../core/view/caps.ts'
import { marginText, numberText } from '../../../core/view/numbers.ts'
import { formTroubles, mendedForms, statValues } from '../../../core/view/stat-table.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** What a character's levels bring: stats with what each adds, forms with what is wrong in them, caps and where they are raised. */
const props = defineProps<{ records: Records; character: Row<'character'>; curve: Row<'curve'> }>()
const plan = usePlanStore()

const troubles = computed(() => formTroubles(props.character, props.curve))
const caps = computed(() => capsOf(props.records, props.character))
const stats = computed(() => props.character.stats.map((stat) => ({ name: labelOf(stat), values: statValues(stat, props.curve) })))
const levels = computed(() => Array.from({ length: props.curve.maxLevel - props.curve.firstLevel + 1 }, (_, i) => props.curve.firstLevel + i))
const words = { gap: 'no form', overlap: 'two forms', beyond: 'beyond the top' } as const

function mend(): void {
  plan.edit(setFields(props.records, 'character', props.character.key, { forms: mendedForms(props.character, props.curve) }, `mend the forms of ${labelOf(props.character)}`))
}

/** A stat over the levels, as a small line. */
function spark(values: readonly number[]): string {
  const [low, high] = [Math.min(...values), Math.max(...values)]
  return values.map((value, i) => `${i === 0 ? 'M' : 'L'}${(i / Math.max(1, values.length - 1)) * 118 + 1} ${25 - ((value - low) / (high - low || 1)) * 23}`).join(' ')
}
</script>

<template>
  <section>
    <template v-if="character.forms.length">
      <h3>Forms</h3>
      <p v-if="!troubles.length" class="soft">{{ character.forms.map((form) => `${form.name} ${form.from} to ${form.to}`).join(', ') }}: no gaps, no overlaps.</p>
      <div v-else class="trouble" data-test="form trouble">
        <p v-for="(trouble, i) in troubles" :key="i">{{ trouble.from === trouble.to ? `Level ${trouble.from}` : `Levels ${trouble.from} to ${trouble.to}` }}: {{ words[trouble.kind] }}.</p>
        <button class="act" data-test="mend forms" @click="mend">Mend them</button>
      </div>
    </template>
    <h3>Caps</h3>
    <p v-if="!caps.length" class="soft">No cap: levels are only bounded by the curve, at {{ curve.maxLevel }}.</p>
    <ul v-else class="caps"><li v-for="(cap, i) in caps" :key="i"><b>{{ cap.level }}</b> {{ cap.by }}<span v-if="cap.place" class="soft">, {{ cap.place }}</span></li></ul>
    <template v-if="character.rewards.length">
      <h3>Rewards</h3>
      <ul class="caps" data-test="rewards"><li v-for="(reward, i) in character.rewards" :key="i"><b>{{ reward.level === 'every' ? 'each' : reward.level }}</b> {{ reward.yields.map(amountText).join(', ') }}</li></ul>
    </template>
    <template v-if="stats.length">
      <h3>Stats</h3>
      <div v-for="stat in stats" :key="stat.name" class="spark"><span>{{ stat.name }}: {{ numberText(stat.values[0]!) }} to {{ numberText(stat.values.at(-1)!) }}</span><svg width="120" height="27" role="img" :aria-label="`${stat.name} over the levels`"><path :d="spark(stat.values)" /></svg></div>
      <div class="scroll" tabindex="0" role="region" aria-label="Stats of every level">
        <table data-test="stat table">
          <thead><tr><th>level</th><template v-for="stat in stats" :key="stat.name"><th class="num">{{ stat.name }}</th><th class="num">adds</th></template></tr></thead>
          <tbody><tr v-for="(level, i) in levels" :key="level"><td>{{ level }}</td><template v-for="stat in stats" :key="stat.name"><td class="num">{{ numberText(stat.values[i]!) }}</td><td class="num soft">{{ i === 0 ? '' : marginText(Math.round((stat.values[i]! - stat.values[i - 1]!) * 10_000) / 10_000) }}</td></template></tr></tbody>
        </table>
      </div>
    </template>
  </section>
</template>

<style scoped>
h3 { border-top: 1px solid var(--line); font-size: 13px; margin: 12px 0 4px; padding-top: 8px; }
p { margin: 2px 0; }
.trouble { background: color-mix(in srgb, var(--short) 9%, transparent); border-radius: 4px; padding: 6px 8px; }
.trouble .act { margin-top: 4px; padding: 4px 10px; }
.caps { list-style: none; margin: 0; padding: 0; }
.caps b { display: inline-block; min-width: 34px; }
.spark { align-items: center; display: flex; font-size: 12px; justify-content: space-between; }
.spark path { fill: none; stroke: var(--accent); stroke-width: 1.5; }
.scroll { max-height: 220px; overflow: auto; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
th { background: var(--paper); color: var(--soft); font-weight: 400; position: sticky; text-align: left; top: 0; }
th.num { text-align: right; }
td { border-top: 1px solid var(--line); padding: 1px 4px; }
</style>
