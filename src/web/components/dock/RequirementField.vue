<script setup lang="ts">
import { autocompletion, closeCompletion, completionKeymap, currentCompletions, type CompletionContext, startCompletion } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { linter, type Diagnostic } from '@codemirror/lint'
import { EditorState, StateEffect } from '@codemirror/state'
import { EditorView, keymap, placeholder } from '@codemirror/view'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { faultText } from '../../../core/exchange/line-fault.ts'
import { formulaVocabulary } from '../../../core/language/names.ts'
import { complete } from '../../../core/language/complete.ts'
import { readText } from '../../../core/language/requirement.ts'
import type { Records } from '../../../core/plan/records.ts'
import { vocabularyOf } from '../../../core/rules/plan-index.ts'
import { changedElsewhere } from '../../changed-elsewhere.ts'
import { useTyped } from './use-typed.ts'

/** A requirement, or a curve's formula: names are completed as they are typed, errors are underlined where they are. Enter or leaving takes it. */
const props = defineProps<{ inputId: string; value: string; records: Records; recordKey: string; use?: 'requirement' | 'formula'; take: (value: string, key: string) => boolean }>()
/** `isChange`: it is understood, and is not what stands in the record. */
const emit = defineEmits<{ typed: [value: string, isChange: boolean]; left: [] }>()

const host = ref<HTMLElement>()
const says = ref<string | null>(null)
let view: EditorView | null = null
const { elsewhere, isTyped, stands, taken, leave } = useTyped(props.value, { read: () => view?.state.doc.toString() ?? null, write: replaceBy })

const isFormula = props.use === 'formula'
const vocabulary = () => (isFormula ? formulaVocabulary : vocabularyOf(props.records))

function diagnostics(current: EditorView): Diagnostic[] {
  const text = current.state.doc.toString()
  const { errors } = readText(text, vocabulary())
  emit('typed', text, isTyped() && errors.length === 0)
  says.value = errors[0] ? `column ${errors[0].column}: ${faultText(errors[0])}` : null
  return errors.map((error) => ({ from: Math.min(error.span.from, text.length), to: Math.min(Math.max(error.span.to, error.span.from + 1), text.length), severity: 'error', message: error.message }))
}

function completions(context: CompletionContext) {
  const { from, options } = complete(context.state.doc.toString(), context.pos, vocabulary())
  if (!context.explicit && from === context.pos && !context.matchBefore(/\($/)) return null
  return { from, options: options.map(({ label, detail, insert }) => ({ label, detail, apply: insert })) }
}

function give(key = props.recordKey): boolean {
  if (!isTyped() || props.take(view!.state.doc.toString(), key)) taken()
  return true
}

/** Names that were missing may be there now. */
const renamed = StateEffect.define()
watch(vocabulary, () => says.value && view?.dispatch({ effects: renamed.of(null) }))

const extensions = [
  history(),
  autocompletion({ override: [completions], icons: false, defaultKeymap: false }),
  linter(diagnostics, { delay: 120, needsRefresh: ({ transactions }) => transactions.some(({ effects }) => effects.some((effect) => effect.is(renamed))) }),
  placeholder(isFormula ? 'prev * 1.15 + 10 * L' : 'level >= 8 and ferry_whistle'),
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ 'aria-label': isFormula ? 'Formula in L, prev, first' : 'Requirement', id: props.inputId, 'data-test': isFormula ? 'field formula' : 'field requires' }),
  // Enter takes what is typed, unless the list of names is open; that has its keys first. One that is only about to open has none.
  keymap.of([{ key: 'Escape', run: (editor) => (currentCompletions(editor.state).length ? closeCompletion(editor) : revert()) }, ...completionKeymap, { key: 'Enter', run: () => give() }, { key: 'Ctrl-Space', run: startCompletion }, ...historyKeymap, ...defaultKeymap]),
  EditorView.domEventHandlers({ blur: () => void give() }),
]
/** The text of a record as it stands, with nothing done to it yet. */
const fresh = (doc: string) => EditorState.create({ doc, extensions })

onMounted(() => (view = new EditorView({ parent: host.value!, state: fresh(props.value) })))
// To make an editor costs far more than to give it another text: it goes on from record to record.
watch(() => props.recordKey, (_, before) => {
  if (view) give(before)
}, { flush: 'sync' })
watch(() => [props.recordKey, props.value] as const, ([key, value], [keyBefore]) => {
  if (key === keyBefore) return stands(value)
  says.value = null
  view?.setState(fresh(value))
  leave(value)
})

function replaceBy(text: string): void {
  if (view && view.state.doc.toString() !== text) view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } })
}

/** Leaves what stands in the record. */
function revert(): boolean {
  leave()
  emit('left')
  return true
}
onBeforeUnmount(() => {
  give()
  view?.destroy()
})
</script>

<template>
  <div>
    <div ref="host" class="editor" :class="{ wrong: says }" @keydown.stop />
    <p v-if="says" class="says" role="alert">{{ says }}</p>
    <p v-else-if="elsewhere !== null" class="says" role="status">{{ changedElsewhere(elsewhere) }}</p>
  </div>
</template>

<style scoped>
.editor { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; }
.editor:focus-within { border-color: var(--accent); }
.editor.wrong { border-color: var(--short); }
.editor :deep(.cm-editor) { outline: none; }
.editor :deep(.cm-content) { caret-color: var(--ink); font-family: var(--mono); font-size: 12px; padding: 4px 2px; }
.editor :deep(.cm-placeholder) { color: var(--soft); }
.editor :deep(.cm-tooltip) { background: var(--raised); border: 1px solid var(--line); color: var(--ink); }
.editor :deep(.cm-tooltip-autocomplete ul li[aria-selected]) { background: var(--accent); color: var(--paper); }
.editor :deep(.cm-completionDetail) { color: inherit; opacity: 0.75; font-style: normal; margin-left: 10px; }
.says { color: var(--short); font-size: 11px; margin: 2px 0 0; }
</style>
