<script setup lang="ts">
import { computed } from 'vue'
import { findingWord } from '../../../core/view/finding-words.ts'
import { numberText } from '../../../core/view/numbers.ts'
import { useCheckStore } from '../../stores/check.ts'
import { keyOf, useFindingsStore, type Severity } from '../../stores/findings.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { vLentFocus } from '../../lent-focus.ts'
import ChoiceSelect from '../ChoiceSelect.vue'
import { choicesOf } from '../choices.ts'
import LongList from '../LongList.vue'

/** Findings of the plan, the gravest first, of one kind and one place if that is wanted; choosing one shows its item. */
const plan = usePlanStore()
const check = useCheckStore()
const findings = useFindingsStore()

const titles: Record<Severity, { title: string; mark: string }> = {
  fault: { title: 'Faults', mark: '✕' },
  risk: { title: 'Risks', mark: '◐' },
  note: { title: 'Worth a look', mark: '·' },
}
const kinds = computed(() => [{ value: '', text: 'every kind' }, ...findings.kinds.map(([id, word]) => ({ value: id, text: word }))])
const places = computed(() => [{ value: '', text: 'everywhere' }, ...choicesOf(findings.places, ({ key }) => key)])
const lockoutText = { none: 'no', undecided: 'not decided', found: 'yes' } as const
</script>

<template>
  <section class="findings" data-test="findings">
    <h3>Findings <span v-if="check.isLooking" class="soft">looking …</span><span v-else class="soft keys"><kbd>n</kbd> next, <kbd>p</kbd> the one before</span></h3>
    <div v-if="findings.all.length" class="filters">
      <ChoiceSelect v-lent-focus :value="findings.kind" :choices="kinds" label="Kind of finding" test="finding kind" @choose="(id) => (findings.kind = id)" />
      <ChoiceSelect v-lent-focus :value="findings.place" :choices="places" label="Place of finding" test="finding place" @choose="(key) => (findings.place = key)" />
    </div>
    <p v-if="!findings.shown.length && !check.isLooking" class="soft">{{ findings.all.length ? 'Nothing of this kind there.' : 'Nothing was found.' }}</p>
    <div v-for="group in findings.groups" :key="group.severity" :class="group.severity">
      <button class="quiet title" :aria-expanded="!findings.folded.has(group.severity)" @click="findings.toggle(group.severity)">{{ findings.folded.has(group.severity) ? '▸' : '▾' }} {{ titles[group.severity].title }}: {{ numberText(group.found.length) }}</button>
      <ul v-if="!findings.folded.has(group.severity)">
        <LongList :key="`${findings.kind} ${findings.place}`" v-slot="{ item: found }" :items="group.found" :name="group.severity">
          <li :key="keyOf(found)"><button class="link" :title="findingWord(found)" @click="findings.choose(found)"><span aria-hidden="true">{{ titles[group.severity].mark }}</span> {{ found.says }}</button></li>
        </LongList>
      </ul>
    </div>
    <p v-if="plan.records?.place.size" class="soft lockouts" data-test="lockouts">
      <template v-if="check.isLookingForLockouts">Can a player get stuck? Looking … <button class="quiet" @click="check.stopLockouts()">Stop</button></template>
      <template v-else-if="check.lockouts">Stuck for good: {{ lockoutText[check.lockouts.stuck.result] }}. Forced to grind: {{ lockoutText[check.lockouts.forcedGrind.result] }}.
        <template v-if="[check.lockouts.stuck, check.lockouts.forcedGrind].some((part) => part.result === 'undecided')">Looked through {{ Math.max(check.lockouts.stuck.states, check.lockouts.forcedGrind.states).toLocaleString('en') }} states.</template></template>
      <template v-else-if="!check.isLooking">Whether a player can get stuck is not known. <button class="quiet" @click="check.lookForLockouts()">Look</button></template>
    </p>
  </section>
</template>

<style scoped>
.findings { border-bottom: 1px solid var(--line); margin: 0 0 12px; padding-bottom: 8px; }
h3 { align-items: baseline; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 4px; }
.keys { font-size: 11px; font-weight: 400; }
kbd { font-family: var(--mono); }
p { margin: 4px 0; }
ul { list-style: none; margin: 0; padding: 0; }
.filters { display: flex; gap: 6px; margin: 2px 0 4px; }
.choice { flex: 1; font-size: 12px; padding: 3px; }
.title { font-weight: 600; padding: 4px 0; }
.fault .title { color: var(--short); }
.risk .title { color: var(--depends); }
.link { background: none; border: 0; border-radius: 3px; color: var(--ink); cursor: pointer; font-size: 12px; padding: 2px 4px 2px 6px; text-align: left; }
.link:hover { background: var(--select); }
.fault .link span { color: var(--short); }
.risk .link span { color: var(--depends); }
.lockouts { font-size: 12px; }
.lockouts .quiet { border-color: var(--line); font-size: 12px; padding: 2px 6px; }
</style>
