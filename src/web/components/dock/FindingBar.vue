<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Finding } from '../../../core/check/result.ts'
import type { WalkMove } from '../../../core/play/walk.ts'
import type { Records } from '../../../core/plan/records.ts'
import { findingWord } from '../../../core/view/finding-words.ts'
import { witnessParts } from '../../../core/view/witness.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useFindingsStore } from '../../stores/findings.ts'
import { useWalkStore } from '../../stores/walk.ts'
import LockoutFixes from './LockoutFixes.vue'

/** The finding that is being looked at: what it says, and the ones before and after it. A lock-out shows how to get there. */
const props = defineProps<{ records: Records; finding: Finding }>()
const check = useCheckStore()
const findings = useFindingsStore()
const walk = useWalkStore()
const router = useRouter()
const route = useRoute()

const part = computed(() => (props.finding.id === 'stuck' ? check.lockouts?.stuck : props.finding.id === 'forced-grind' ? check.lockouts?.forcedGrind : null))
/** The witness as a walk; null where chance has to fall in one way for it. */
const moves = computed(() => {
  const all = part.value?.witness
  return all && !all.some((move) => 'outcome' in move) ? all.map((move): WalkMove => ('take' in move ? { take: move.take, units: 1 } : move)) : null
})
function walkIt(): void {
  if (!moves.value) return
  walk.follow(moves.value)
  void router.push({ name: 'walk', params: route.params })
}
const witness = computed(() => {
  return part.value?.witness ? { parts: witnessParts(props.records, part.value.witness), missing: part.value.missing } : null
})
</script>

<template>
  <section class="finding" :class="finding.severity" data-test="finding">
    <header>
      <b>{{ findingWord(finding) }}</b>
      <span class="soft count">{{ findings.index < 0 ? '' : `${findings.index + 1} of ${findings.steps.length}` }}</span>
      <button class="quiet" title="The finding before (p)" aria-label="The finding before" @click="findings.step(-1)">‹</button>
      <button class="quiet" title="Next finding (n)" aria-label="Next finding" @click="findings.step(1)">›</button>
      <button class="quiet" title="Close" aria-label="Close the finding" @click="findings.leave()">×</button>
    </header>
    <p>{{ finding.says }}</p>
    <template v-if="witness">
      <h4>{{ witness.parts.length ? 'How to get there' : 'From the start' }}</h4>
      <ol data-test="witness">
        <li v-for="part in witness.parts" :key="part.first" :value="part.first">
          <b>{{ part.place }}</b><span v-for="(deed, i) in part.deeds" :key="i">{{ i === 0 ? ': ' : '; ' }}{{ deed }}</span>
        </li>
      </ol>
      <p v-if="moves"><button class="quiet walk" data-test="walk witness" @click="walkIt">Walk it by hand</button></p>
      <p v-if="witness.missing" class="missing">Then: {{ witness.missing }}.</p>
      <LockoutFixes :kind="finding.id === 'stuck' ? 'stuck' : 'forcedGrind'" />
    </template>
  </section>
</template>

<style scoped>
.finding { background: var(--panel); border-left: 3px solid var(--off); border-radius: 4px; margin: 0 0 10px; padding: 4px 8px 8px; }
.finding.fault { border-color: var(--short); }
.finding.risk { border-color: var(--depends); }
header { align-items: center; display: flex; gap: 2px; }
header b { flex: 1; }
.fault header b { color: var(--short); }
.risk header b { color: var(--depends); }
.count { font-size: 11px; margin-right: 4px; white-space: nowrap; }
p { font-size: 12px; margin: 2px 0 0; }
.walk { border-color: var(--line); color: var(--accent); font-weight: 600; }
h4 { font-size: 12px; margin: 8px 0 2px; }
ol { font-size: 12px; margin: 0; padding-left: 28px; }
li { padding: 1px 0; }
.missing { font-weight: 600; margin-top: 6px; }
</style>
