<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { atLeastHere, levelHere } from '../../../core/play/expect.ts'
import { fromUnits } from '../../../core/rules/compile.ts'
import { floorAt, valueAt } from '../../../core/rules/gain.ts'
import { limitOf } from '../../../core/rules/state.ts'
import { countText, numberText, typedNumber } from '../../../core/view/numbers.ts'
import { statsAt } from '../../../core/view/stat-table.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'
import type { ProfileView } from '../../workers/check.worker.ts'

/** What the player holds, how far each level is, and how that compares with the kinds of player. */
const plan = usePlanStore()
const check = useCheckStore()
const walk = useWalkStore()

const characters = computed(() => {
  const { game, state } = walk
  if (!game || !state) return []
  return game.characters.map((character, c) => {
    const { curve } = character
    const level = state.level[c]!
    const limit = limitOf(game, state, c)
    const inPlan = (units: number) => Math.round((fromUnits(units) / (curve?.grain ?? 1)) * 100) / 100
    const floor = curve ? floorAt(curve, level) : 0
    const needed = curve && level < limit ? inPlan(valueAt(curve, level) - floor) : null
    const xp = inPlan(state.xp[c]! - floor)
    return { here: levelHere(game, state, c), id: character.id, name: labelOf(character), present: state.present[c] === 1, level, limit, needed, xp, form: character.forms.find((form) => form.from <= level && level <= form.to)?.name ?? '', stats: plan.records ? statsAt(plan.records, c, level) : [] }
  })
})
type Held = (typeof characters.value)[number]
function xpText({ present, needed, xp }: Pick<Held, 'present' | 'needed' | 'xp'>): string {
  if (!present) return 'has not joined yet'
  if (needed === null) return `at the limit${xp > 0 ? `, ${numberText(xp)} XP kept` : ''}`
  // With one level for a gain what is over waits for the next one.
  return `${numberText(xp)} of ${numberText(needed)} XP${xp > needed ? ': the next gain lifts it' : ''}`
}

const tallies = computed(() => (walk.game && walk.state ? walk.game.tallies.map((tally, t) => ({ id: tally.id, name: labelOf(tally), amount: fromUnits(walk.state!.tallies[t]!), here: atLeastHere(walk.game!, walk.state!, t) })) : []))

// How the walk stands beside the kinds of player: what each has on leaving this place.
const everyone = shallowRef<ProfileView[]>([])
watch(() => check.view, async () => {
  const found = await check.everyone()
  if (found) everyone.value = found
}, { immediate: true })
const besides = computed(() => {
  const id = walk.place?.id
  const leader = characters.value[0]
  if (!id || !leader) return []
  return everyone.value.flatMap(({ name, stops }) => {
    const levels = stops.find((stop) => stop.place === id)?.levels[leader.id]
    if (!levels) return []
    const off = leader.level > levels.q95 ? leader.level - levels.q95 : leader.level < levels.q05 ? leader.level - levels.q05 : 0
    return [{ name, text: `${numberText(levels.q05)}${levels.q95 === levels.q05 ? '' : ` to ${numberText(levels.q95)}`}`, off }]
  })
})

const gift = ref('100')
const giftTally = ref('')
function give(): void {
  const amount = typedNumber(gift.value)
  const id = giftTally.value || tallies.value[0]?.id
  if (id && Number.isFinite(amount)) walk.make({ give: id, amount })
}
</script>

<template>
  <section class="held" aria-label="What is held">
    <div v-for="character in characters" :key="character.id" class="character" :class="{ away: !character.present }" :data-test="`walk ${character.id}`">
      <p><button class="quiet pin" :aria-pressed="walk.isExpectedHere(character.here)" :aria-label="`Expect ${character.name} at level ${character.level} here`" title="Expect this level here" @click="walk.expectHere(character.here)">expect</button><b>{{ character.name }}</b> level <b>{{ character.level }}</b>{{ character.form ? `, ${character.form}` : '' }} <span class="soft">{{ xpText(character) }}</span></p>
      <div class="bar" role="img" :aria-label="`${character.name}: ${character.needed === null ? 'at the limit' : `${character.xp} of ${character.needed} XP`}`"><div :style="{ width: `${character.needed === null ? 100 : Math.min(100, (character.xp / character.needed) * 100)}%` }" /></div>
      <p v-if="character.stats.length" class="soft small">{{ character.stats.map((stat) => `${stat.name} ${numberText(stat.value)}`).join(', ') }}</p>
    </div>
    <p v-if="besides.length" class="small" data-test="walk band"><span class="soft">On leaving here:</span> <span v-for="(one, i) in besides" :key="one.name">{{ one.name }} level {{ one.text }}<b v-if="one.off" :class="one.off < 0 ? 'below' : 'above'"> ({{ countText(Math.abs(one.off), 'level') }} {{ one.off > 0 ? 'above' : 'below' }})</b>{{ i < besides.length - 1 ? '; ' : '' }}</span></p>
    <table><tbody><tr v-for="tally in tallies" :key="tally.id" :data-test="`held ${tally.id}`"><td>{{ tally.name }}</td><td class="num"><b>{{ numberText(tally.amount) }}</b></td><td class="pins"><button class="quiet pin" :aria-pressed="walk.isExpectedHere(tally.here)" :aria-label="`Expect at least ${numberText(tally.amount)} ${tally.name} here`" title="Expect at least so many here" @click="walk.expectHere(tally.here)">expect</button></td></tr></tbody></table>
    <form class="gift" @submit.prevent="give">
      <label>Gift <input v-model="gift" class="num" inputmode="decimal" aria-label="How much is given" data-test="gift amount" /></label>
      <select v-model="giftTally" aria-label="Of what" data-test="gift tally"><option value="">{{ tallies[0]?.name }}</option><option v-for="tally in tallies.slice(1)" :key="tally.id" :value="tally.id">{{ tally.name }}</option></select>
      <button class="quiet" data-test="give">give</button>
    </form>
    <p class="more"><button class="quiet" title="Fail and try again (f)" @click="walk.make({ fail: true })">fail</button><button class="quiet" title="Quit and come back (q)" @click="walk.make({ quit: true })">quit</button><button class="quiet" @click="walk.begin(walk.start)">begin anew</button></p>
  </section>
</template>

<style scoped>
.held { border-left: 1px solid var(--line); min-height: 0; overflow: auto; padding: 10px 14px; }
.character { margin-bottom: 10px; }
.character p { margin: 0 0 3px; }
.away { color: var(--soft); }
.bar { background: var(--panel); border-radius: 5px; height: 10px; overflow: hidden; }
.bar div { background: var(--accent); height: 100%; transition: width 0.2s; }
@media (prefers-reduced-motion: reduce) { .bar div { transition: none; } }
.small { font-size: 12px; }
.above { color: var(--depends); }
.below { color: var(--short); }
table { border-collapse: collapse; margin: 6px 0; width: 100%; }
td { border-top: 1px solid var(--line); padding: 1px 2px; }
.pins { text-align: right; width: 60px; }
.pin { color: var(--soft); font-size: 12px; padding: 1px 6px; }
.character .pin { float: right; }
.pin[aria-pressed='true'] { background: var(--select); color: var(--ink); font-weight: 600; }
select, input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 3px 6px; }
.gift { align-items: center; display: flex; flex-wrap: wrap; gap: 6px; }
.gift input { width: 64px; }
.gift .quiet, .more .quiet { border-color: var(--line); margin-right: 6px; }
</style>
