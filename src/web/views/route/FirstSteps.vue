<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { firstSteps } from '../../../core/change/first-steps.ts'
import { shapeFault } from '../../../core/change/shape.ts'
import { inOrder } from '../../../core/plan/records.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { numberText, typedNumber } from '../../../core/view/numbers.ts'
import { slugFrom } from '../../../core/change/slug.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { newKey } from '../../new-key.ts'

/** An empty plan: what to do first, offered to be done at once. */
const emit = defineEmits<{ begun: [] }>()

const plan = usePlanStore()
const check = useCheckStore()
const form = reactive({ tally: 'Renown', character: 'Courier', base: '80', factor: '1.15', add: '10', levels: '20', place: '' })
const numbers = computed(() => ({ base: typedNumber(form.base), factor: typedNumber(form.factor), add: typedNumber(form.add), levels: typedNumber(form.levels) }))
const says = ref('')
const place = ref<HTMLInputElement>()

/** All but the place is proposed already. */
const focusEntry = () => place.value?.focus()
onMounted(focusEntry)
defineExpose({ focusEntry })

const hasCharacter = computed(() => plan.records !== null && inOrder(plan.records, 'character').length > 0)
const preview = computed(() => {
  const { levels, ...growth } = numbers.value
  const sound = Number.isInteger(levels) && levels > 1 && levels <= 999 && Object.values(growth).every((n) => Number.isFinite(n))
  if (!sound) return []
  const rule = { kind: 'growth' as const, ...growth }
  return levelTicks({ id: 'c', name: '', firstLevel: 1, maxLevel: levels, counts: 'step', rule, rounding: 'nearest', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard' }).slice(0, 7)
})

function begin(): void {
  if (!plan.records) return
  if (!slugFrom(form.place)) return void (says.value = 'The first place needs a name, such as Harbour Depot.')
  if (!hasCharacter.value && (!slugFrom(form.tally) || !slugFrom(form.character) || preview.value.length < 2)) {
    return void (says.value = 'The XP and the character need names, and the curve a base above 0.')
  }
  const level = hasCharacter.value ? null : { ...form, ...numbers.value }
  const keys = { tally: newKey(), curve: newKey(), character: newKey(), place: newKey(), passage: newKey() }
  const diff = firstSteps(plan.records, level, form.place.trim(), keys, check.routeKey)
  const fault = shapeFault(plan.records, diff)
  if (fault) return void (says.value = fault)
  plan.edit(diff)
  emit('begun')
}
</script>

<template>
  <div class="first">
    <form @submit.prevent="begin">
      <h1>An empty plan</h1>
      <p class="soft">Begin with what the player gains and how fast a level grows, and the first place. Everything can be changed later, and undone.</p>
      <fieldset v-if="!hasCharacter">
        <legend>Levels</legend>
        <label>XP is called <input v-model="form.tally" data-test="first-tally" /></label>
        <label>Who levels up <input v-model="form.character" data-test="first-character" /></label>
        <div class="growth">
          <label>XP from 1 to 2 <input v-model="form.base" class="num" inputmode="decimal" data-test="first-base" /></label>
          <label>then each × <input v-model="form.factor" class="num" inputmode="decimal" data-test="first-factor" /></label>
          <label>plus <input v-model="form.add" class="num" inputmode="decimal" data-test="first-add" /></label>
          <label>up to level <input v-model="form.levels" class="num" inputmode="numeric" data-test="first-levels" /></label>
        </div>
        <p v-if="preview.length" class="soft preview">XP in all: <span v-for="tick in preview.slice(1)" :key="tick.level">level {{ tick.level }} at <b>{{ numberText(tick.xp) }}</b></span> …</p>
      </fieldset>
      <fieldset>
        <legend>The first place</legend>
        <label>Name <input ref="place" v-model="form.place" placeholder="Harbour Depot" data-test="first-place" /></label>
      </fieldset>
      <p v-if="says" class="says" role="alert">{{ says }}</p>
      <button class="act" data-test="begin">Begin</button>
      <p class="soft">After that, the line at the foot of the sheet takes everything: <code>12 drift hares 20 renown</code>, <code>door North hatch level &gt;= 3</code>, <code>place Gull Stair</code>, <code>tally Stamps currency</code>.</p>
    </form>
  </div>
</template>

<style scoped>
.first { overflow: auto; padding: 32px 24px; }
form { margin: 0 auto; max-width: 640px; }
h1 { font-size: 20px; margin: 0 0 4px; }
fieldset { border: 1px solid var(--line); border-radius: 6px; margin: 16px 0; min-width: 0; padding: 10px 16px 14px; }
legend { font-weight: 600; padding: 0 6px; }
label { display: inline-block; margin: 6px 18px 6px 0; color: var(--soft); }
input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); display: block; font-size: 14px; margin-top: 3px; padding: 6px 8px; width: 200px; }
input.num { width: 96px; }
.growth { display: flex; flex-wrap: wrap; }
.preview { margin: 4px 0 0; }
.preview span { margin-right: 10px; white-space: nowrap; }
.says { color: var(--short); }
code { background: var(--panel); border-radius: 3px; font-family: var(--mono); font-size: 12px; padding: 1px 4px; }
</style>
