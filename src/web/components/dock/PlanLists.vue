<script setup lang="ts">
import { addRecord, freeId, removeRecords } from '../../../core/change/edits.ts'
import { issueText } from '../../../core/plan/issue-text.ts'
import { pathText } from '../../../core/plan/issue.ts'
import type { KindName } from '../../../core/plan/kinds.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { freshRecord } from '../../../core/change/fresh.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import LongList from '../LongList.vue'
import HeadEditor from './HeadEditor.vue'
import { newKey } from '../../new-key.ts'

/** What the plan is made of beside its rows: each list with a way to add to it, and what is wrong in the plan. */
const props = defineProps<{ records: Records }>()
const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()

const lists: { kind: KindName; title: string; one: string }[] = [
  { kind: 'tally', title: 'Tallies', one: 'tally' },
  { kind: 'character', title: 'Characters', one: 'character' },
  { kind: 'curve', title: 'Curves', one: 'curve' },
  { kind: 'pattern', title: 'Patterns', one: 'pattern' },
  { kind: 'route', title: 'Routes', one: 'route' },
  { kind: 'profile', title: 'Kinds of player', one: 'kind of player' },
  { kind: 'passage', title: 'Passages', one: 'passage' },
]

function rowsOf(kind: KindName) {
  return inOrder(props.records, kind) as unknown as { key: string; id: string; name?: string }[]
}

function add(kind: KindName, one: string): void {
  const fresh = freshRecord(props.records, kind, freeId(props.records, kind, `new ${one}`))
  if (typeof fresh === 'string') return void (plan.notice = fresh)
  const key = newKey()
  plan.edit(addRecord(props.records, kind, key, fresh as never))
  selection.choose(kind, key)
}

function remove(kind: KindName, key: string): void {
  plan.edit(removeRecords(props.records, [{ kind, key }]))
}
</script>

<template>
  <div class="lists">
    <section v-if="check.view?.issues.length" class="issues" role="alert">
      <h3>What is wrong in the plan</h3>
      <ul>
        <LongList v-slot="{ item: issue }" :items="check.view.issues" name="issues">
          <li>
            <button v-if="issue.item && issue.item.kind !== 'head'" class="link" @click="selection.choose(issue.item.kind as KindName, issue.item.key)">{{ issue.item.id }}</button>
            <b v-else>the plan</b> <span class="soft">{{ pathText(issue.path) }}:</span> {{ issueText(issue) }}
          </li>
        </LongList>
      </ul>
    </section>
    <HeadEditor :records="records" />
    <section v-for="{ kind, title, one } in lists" :key="kind">
      <header><h3>{{ title }}</h3><button class="quiet" :data-test="`add ${kind}`" @click="add(kind, one)">+ add</button></header>
      <ul>
        <LongList v-slot="{ item: row }" :items="rowsOf(kind)" :name="kind">
          <li :key="row.key">
            <button class="link" @click="selection.choose(kind, row.key)">{{ labelOf(row) }}</button>
            <button class="quiet soft" :aria-label="`Delete ${labelOf(row)}`" @click="remove(kind, row.key)">×</button>
          </li>
        </LongList>
      </ul>
    </section>
  </div>
</template>

<style scoped>
header { align-items: center; display: flex; justify-content: space-between; }
h3 { font-size: 13px; margin: 0; }
section { margin-bottom: 12px; }
ul { list-style: none; margin: 2px 0 0; padding: 0; }
li { display: flex; justify-content: space-between; }
.issues li { display: block; margin-bottom: 4px; }
.issues h3 { color: var(--short); }
.link { background: none; border: 0; color: var(--accent); cursor: pointer; font-size: 13px; padding: 2px 0; text-align: left; }
.link:hover { text-decoration: underline; }
li .quiet { padding: 2px 6px; }
</style>
