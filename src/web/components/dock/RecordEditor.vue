<script setup lang="ts">
import { computed } from 'vue'
import type { Edited } from '../../../core/change/diff.ts'
import { renameId, setFields } from '../../../core/change/edits.ts'
import type { PlanIssue } from '../../../core/plan/issue.ts'
import { issueText } from '../../../core/plan/issue-text.ts'
import { kindEntry, type KindName } from '../../../core/plan/kinds.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { recordFault } from '../../../core/plan/record-fault.ts'
import type { Records } from '../../../core/plan/records.ts'
import { slugPattern } from '../../../core/plan/basics.ts'
import { reservedWords } from '../../../core/language/words.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import type { Chosen } from '../../stores/selection.ts'
import { plainRecord } from '../../../core/plan/file.ts'
import FieldControl from './FieldControl.vue'
import { fieldTable, type FieldEntry } from './field-table.ts'

/** All fields of one record, each with its word, its unit and its error in place. */
const props = defineProps<{ records: Records; kind: KindName; recordKey: string }>()

const plan = usePlanStore()
const check = useCheckStore()
/** A record as it is now: what is typed may be taken while others are being drawn. */
const recordOf = (kind: KindName, key: string) => plan.records?.[kind].get(key) as unknown as (Record<string, unknown> & { id: string; name?: string }) | undefined
const row = computed(() => props.records[props.kind].get(props.recordKey) as unknown as Record<string, unknown> | undefined)
const issues = computed(() => check.issuesOf(props.recordKey))

function issueOf({ field }: FieldEntry): string | null {
  const own = issues.value.filter((issue: PlanIssue) => issue.path[0] === field)
  return own.length ? own.map(issueText).join('; ') : null
}

/** The change that gives a value to a field of a record, which need no longer be the one that is shown; or why it cannot be given. */
function changeOf(entry: FieldEntry, value: unknown, { kind, key }: Chosen): Edited {
  const row = recordOf(kind, key)
  if (!row) return { says: 'it belongs to what has been deleted' }
  if (entry.control === 'id') return idChange(String(value), { kind, key })
  const fields = { [entry.field]: value ?? undefined }
  const next = { ...plainRecord(kind, row as never), ...fields } as Record<string, unknown>
  const isNullable = (entry.control === 'ref' || entry.control === 'number' || entry.control === 'guards') && !('optional' in entry && entry.optional) && entry.field !== 'pattern'
  if (value === null && isNullable) next[entry.field] = null
  const fault = recordFault(kind, next)
  if (fault) return { says: fault }
  const shown = typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? `: ${String(value).slice(0, 60)}` : ''
  return { diff: setFields(plan.records!, kind, key, { [entry.field]: value } as never, `${labelOf(row)}, ${entry.label.toLowerCase()}${shown}`) }
}

function idChange(id: string, { kind, key }: Chosen): Edited {
  if (!slugPattern.test(id) || id.length > 64) return { says: 'an id is small letters, digits and _, beginning with a letter' }
  if (kind === 'tally' && reservedWords.has(id)) return { says: `"${id}" is a word of the requirement language` }
  const isTaken = [...(plan.records![kind] as ReadonlyMap<string, { id: string; key: string }>).values()].some((other) => other.id === id && other.key !== key)
  if (isTaken) return { says: `another ${kindEntry(kind).word} has the id "${id}"` }
  return { diff: renameId(plan.records!, kind, key, id) }
}

/** What was typed into a field that is left for another record, and cannot be taken, is told of: its place under the field is gone. */
function tellRefused({ label }: FieldEntry, says: string, { kind, key }: Chosen): void {
  const row = recordOf(kind, key)
  plan.notice = row ? `${labelOf(row)}, ${label.toLowerCase()}: ${says}. It was left as it was.` : `What was typed for “${label.toLowerCase()}” was not taken: ${says}.`
}
</script>

<template>
  <div v-if="row" class="fields" :data-test="`editor ${kind}`">
    <FieldControl
      v-for="entry in fieldTable[kind]" :key="`${kind} ${entry.field}`" :entry="entry" :value="row[entry.field]" :records="records" :issue="issueOf(entry)"
      :kind="kind" :record-key="recordKey" :change-of="changeOf" @refused="(says, of) => tellRefused(entry, says, of)"
    />
  </div>
</template>

<style scoped>
.fields { display: grid; gap: 8px; }
</style>
