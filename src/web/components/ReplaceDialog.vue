<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { replaceAll, replaceName, replacementLabel, replacements } from '../../core/change/replace.ts'
import { shapeFault } from '../../core/change/shape.ts'
import { countText } from '../../core/view/numbers.ts'
import { dialogs } from '../commands.ts'
import { usePlanStore } from '../stores/plan.ts'
import LongList from './LongList.vue'

/** Finds and replaces in names, players' texts and ids; every place is shown before it is changed, and can be left out. */
const plan = usePlanStore()
const options = reactive({ find: '', by: '', matchCase: false, names: true, ids: false })
const left = ref(new Set<string>())
const field = ref<HTMLInputElement>()
const byField = ref<HTMLInputElement>()
/** Why it cannot be done. */
const says = ref<string | null>(null)

const all = computed(() => (dialogs.replace && plan.records ? replacements(plan.records, options) : []))
const keyOf = ({ key, what }: (typeof all.value)[number]) => `${key} ${what}`
const chosen = computed(() => all.value.filter((one) => !left.value.has(keyOf(one))))

function toggle(key: string): void {
  const next = new Set(left.value)
  if (!next.delete(key)) next.add(key)
  left.value = next
}

function replace(): void {
  const { records } = plan
  if (!chosen.value.length || !records) return
  const diff = replaceAll(records, chosen.value, replaceName(options, chosen.value))
  says.value = shapeFault(records, diff)
  if (says.value) return
  plan.edit(diff)
  dialogs.replace = false
}

watch([options, left], () => (says.value = null))
</script>

<template>
  <ElDialog v-model="dialogs.replace" title="Find and replace" width="680" append-to-body @opened="field?.select()">
    <form data-test="replace" @submit.prevent="replace">
      <div class="fields">
        <label>Find <input ref="field" v-model="options.find" data-test="replace find" spellcheck="false" @input="left = new Set()" @keydown.enter.prevent="byField?.select()" /></label>
        <label>Replace by <input ref="byField" v-model="options.by" data-test="replace by" spellcheck="false" /></label>
      </div>
      <p class="checks">
        <label><input v-model="options.names" type="checkbox" /> in names and texts for the player</label>
        <label><input v-model="options.ids" type="checkbox" data-test="replace ids" /> in ids, wherever they are named</label>
        <label><input v-model="options.matchCase" type="checkbox" /> capital letters as typed</label>
      </p>
      <p v-if="options.find && !all.length" class="soft">“{{ options.find }}” is nowhere there.</p>
      <ul v-else>
        <LongList :key="options.find" v-slot="{ item: one }" :items="all" name="replacements">
          <li :key="keyOf(one)">
            <label><input type="checkbox" :checked="!left.has(keyOf(one))" @change="toggle(keyOf(one))" /> <span class="soft">{{ replacementLabel(one) }}:</span> {{ one.before }} → <b>{{ one.after }}</b></label>
          </li>
        </LongList>
      </ul>
      <p v-if="says" class="says" role="alert">{{ says }}</p>
      <p class="acts"><button class="act" :disabled="!chosen.length" data-test="replace all">{{ chosen.length ? `${options.by ? 'Replace' : 'Take out'} ${countText(chosen.length, 'time')}` : 'Nothing to replace' }}</button></p>
    </form>
  </ElDialog>
</template>

<style scoped>
.fields { display: flex; gap: 12px; }
.fields label { color: var(--soft); flex: 1; }
.fields input { background: var(--paper); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); display: block; font-size: 14px; padding: 6px 8px; width: 100%; }
.checks { display: flex; flex-wrap: wrap; gap: 4px 18px; }
ul { border: 1px solid var(--line); border-radius: 4px; list-style: none; margin: 0; max-height: 40vh; overflow: auto; padding: 4px 8px; }
li { padding: 2px 0; }
.acts { text-align: right; }
.says { color: var(--short); }
.act:disabled { opacity: 0.45; }
</style>
