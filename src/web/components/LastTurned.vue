<script setup lang="ts">
import { computed } from 'vue'
import { countText } from '../../core/view/numbers.ts'
import { isWorse, turnText, type Turned } from '../../core/view/turns.ts'
import { useTurnedStore } from '../stores/turned.ts'

/** What the last change did to verdicts, wherever they are; choosing it shows the gates, one after another. */
const turned = useTurnedStore()

/** Gates that are told of by name to whoever asks. */
const most = 12
const sentence = (turn: Turned) => `${turn.name}: ${turnText(turn)}`
const text = computed(() => {
  const { shown } = turned
  const [first, ...others] = shown
  if (!first) return ''
  if (!others.length) return sentence(first)
  const worse = shown.filter(isWorse).length
  const parts = [{ n: worse, word: 'worse' }, { n: shown.length - worse, word: 'better' }].filter(({ n }) => n)
  return `${countText(shown.length, 'verdict')} turned: ${parts.map(({ n, word }) => `${n} ${word}`).join(', ')}`
})
const all = computed(() => {
  const { shown } = turned
  return ['What the last change turned (v goes through them)', ...shown.slice(0, most).map(sentence), ...(shown.length > most ? [`and ${shown.length - most} more`] : [])].join('\n')
})
</script>

<template>
  <span class="turned" role="status"><button v-if="text" class="quiet" :title="all" data-test="turned" @click="turned.step()">{{ text }} <kbd>v</kbd></button></span>
</template>

<style scoped>
.turned { flex: 0 1 auto; min-width: 0; }
button { color: #f3c46b; font-size: 12px; line-height: 1.25; text-align: right; }
kbd { color: var(--bar-soft); font-family: var(--mono); font-size: 11px; margin-left: 4px; }
</style>
