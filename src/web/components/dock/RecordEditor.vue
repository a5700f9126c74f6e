<script setup lang="ts">
import { computed } from 'vue'
import { labelOf, renameId, setFields } from '../../../core/change/edits.ts'
import type { PlanIssue } from '../../../core/plan/issue.ts'
import { issueText } from '../../../core/plan/issue-text.ts'
import { kindEntry, type KindName } from '../../../core/plan/kinds.ts'
import type { Records } from '../../../core/plan/records.ts'
import { slugPattern } from '../../../core/plan/basics.ts'
import { reservedWords } from '../../../core/language/words.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { plainRecord } from '../../../core/plan/file.ts'
import FieldControl from './FieldControl.vue'
import { fieldTable, type FieldEntry } from './field-table.ts'

/** All fields of one record, each with its word, its unit and its error in place. */
const props = defineProps<{ records: Records; kind: KindName; recordKey: string }>()

const plan = usePlanStore()
const check = useCheckStore()
const row = computed(() => props.records[props.kind].get(props.recordKey) as unknown as (Record<string, unknown> & { id: string; name?: string }) | undefined)
const issues = computed(() => check.issuesByKey.get(props.recordKey) ?? [])

function issueOf({ field }: FieldEntry): string | null {
  const own = issues.value.filter((issue: PlanIssue) => issue.path[0] === field)
  return own.length ? own.map(issueText).join('; ') : null
}

/** Takes a value for a field; gives back why it cannot be taken. */
function take(entry: FieldEntry, value: unknown): string | null {
  if (!row.value) return null
  if (entry.control === 'id') return takeId(String(value))
  const fields = { [entry.field]: value ?? undefined }
  const next = { ...plainRecord(props.kind, row.value as never), ...fields } as Record<string, unknown>
  const isNullable = (entry.control === 'ref' || entry.control === 'number' || entry.control === 'guards') && !('optional' in entry && entry.optional) && entry.field !== 'pattern'
  if (value === null && isNullable) next[entry.field] = null
  const parsed = kindEntry(props.kind).schema.safeParse(next)
  if (!parsed.success) return parsed.error.issues[0]!.message
  const shown = typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? `: ${String(value).slice(0, 60)}` : ''
  plan.edit(setFields(props.records, props.kind, props.recordKey, { [entry.field]: value } as never, `${labelOf(row.value)}, ${entry.label.toLowerCase()}${shown}`))
  return null
}

function takeId(id: string): string | null {
  if (!slugPattern.test(id) || id.length > 64) return 'an id is small letters, digits and _, beginning with a letter'
  if (props.kind === 'tally' && reservedWords.has(id)) return `"${id}" is a word of the requirement language`
  const isTaken = [...(props.records[props.kind] as ReadonlyMap<string, { id: string; key: string }>).values()].some((other) => other.id === id && other.key !== props.recordKey)
  if (isTaken) return `another ${kindEntry(props.kind).word} has the id "${id}"`
  plan.edit(renameId(props.records, props.kind, props.recordKey, id))
  return null
}
</script>

<template>
  <div v-if="row" class="fields" :data-test="`editor ${kind}`">
    <FieldControl
      v-for="entry in fieldTable[kind]" :key="`${recordKey} ${entry.field}`" :entry="entry" :value="row[entry.field]" :records="records" :issue="issueOf(entry)"
      :record-key="recordKey" :take="(value: unknown) => take(entry, value)"
    />
  </div>
</template>

<style scoped>
.fields { display: grid; gap: 8px; }
</style>
