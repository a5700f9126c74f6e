<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { kindEntry, kindNames, type KindName } from '../../core/plan/kinds.ts'
import { labelOf } from '../../core/plan/label-of.ts'
import { inOrder } from '../../core/plan/records.ts'
import { allCommands, paletteOpen } from '../commands.ts'
import { usePlanStore } from '../stores/plan.ts'
import { useSelectionStore } from '../stores/selection.ts'

interface Entry {
  id: string
  title: string
  /** What it is, or its keys. */
  hint: string
  off: boolean
  run: () => void
}

/** Every command by its words, and everything in the plan by its name or id. */
const plan = usePlanStore()
const selection = useSelectionStore()
const wanted = ref('')
const chosen = ref(0)
const field = ref<HTMLInputElement>()
const list = ref<HTMLElement>()
const mostItems = 40

const words = computed(() => wanted.value.toLowerCase().split(/\s+/).filter(Boolean))
const has = (text: string) => words.value.every((word) => text.toLowerCase().includes(word))
const commands = computed(() => allCommands().filter(({ title }) => has(title)).map((command): Entry => ({ id: command.id, title: command.title, hint: command.keys ?? command.shown ?? '', off: command.enabled?.() === false, run: command.run })))
const items = computed((): Entry[] => {
  if (!plan.records || !words.value.length) return []
  const found: Entry[] = []
  for (const kind of kindNames) {
    for (const row of inOrder(plan.records, kind) as unknown as { key: string; id: string; name?: string; place?: string | null }[]) {
      if (found.length >= mostItems) return found
      if (has(`${row.name ?? ''} ${row.id}`)) found.push({ id: row.key, title: labelOf(row), hint: whereOf(kind, row.place), off: false, run: () => selection.choose(kind, row.key) })
    }
  }
  return found
})
const entries = computed(() => [...commands.value, ...items.value])

function whereOf(kind: KindName, place: string | null | undefined): string {
  const name = place ? plan.records?.place.get(place)?.name : undefined
  return name ? `${kindEntry(kind).word} · ${name}` : kindEntry(kind).word
}

watch(paletteOpen, (open) => {
  if (!open) return
  wanted.value = ''
  chosen.value = 0
})
watch(wanted, () => (chosen.value = 0))

function run(entry: Entry | undefined): void {
  paletteOpen.value = false
  if (entry && !entry.off) void nextTick(entry.run)
}

function move(by: number): void {
  chosen.value = Math.min(Math.max(chosen.value + by, 0), entries.value.length - 1)
  void nextTick(() => list.value?.children[chosen.value]?.scrollIntoView({ block: 'nearest' }))
}
</script>

<template>
  <ElDialog v-model="paletteOpen" title="Commands and find" width="560" append-to-body @opened="field?.focus()">
    <input
      ref="field" v-model="wanted" class="field" placeholder="What do you want to do, or to find?" aria-label="Find a command" role="combobox" aria-expanded="true" aria-controls="palette-list"
      :aria-activedescendant="entries.length ? `palette-${chosen}` : undefined" @keydown.down.prevent="move(1)" @keydown.up.prevent="move(-1)" @keydown.enter.prevent="run(entries[chosen])"
    />
    <ul id="palette-list" ref="list" class="commands" role="listbox" aria-label="Commands" data-test="palette">
      <li v-for="(entry, i) in entries" :id="`palette-${i}`" :key="entry.id" role="option" :aria-selected="i === chosen" :class="{ chosen: i === chosen, off: entry.off, first: i === commands.length && i > 0 }" @click="run(entry)">
        <span>{{ entry.title }}</span><kbd v-if="i < commands.length">{{ entry.hint }}</kbd><span v-else class="soft">{{ entry.hint }}</span>
      </li>
      <li v-if="!entries.length" class="soft">No command and nothing in the plan has these letters.</li>
    </ul>
  </ElDialog>
</template>

<style scoped>
.field { width: 100%; padding: 8px 10px; border: 1px solid var(--line); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 14px; }
.commands { list-style: none; margin: 10px 0 0; padding: 0; max-height: 420px; overflow: auto; }
li { display: flex; gap: 16px; justify-content: space-between; padding: 6px 10px; border-radius: 4px; cursor: pointer; color: var(--ink); }
li.first { border-top: 1px solid var(--line); }
li.chosen { background: var(--select); }
li.off { opacity: 0.5; }
kbd { font-family: var(--mono); font-size: 12px; color: var(--soft); }
</style>
