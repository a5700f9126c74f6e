<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import type { Diff } from '../../../core/change/diff.ts'
import type { readEntry } from '../../../core/exchange/entry-line.ts'
import type { Records } from '../../../core/plan/records.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import EntryLine from './EntryLine.vue'
import LaneHeads from './LaneHeads.vue'
import RouteRail from './RouteRail.vue'
import RowLanes from './RowLanes.vue'
import SheetRowView from './SheetRow.vue'
import { addEntry, cells, cellText, doubleRow, editCell, itemOf, moveRow, newKey, recordOf, removeRows, toggleRole, type Cell } from './sheet-actions.ts'
import { rowHeight } from './row-height.ts'
import { useSheet } from './use-sheet.ts'

/** The sheet of the route: rows edited in place, and beside each the lanes of what it does. */
const props = defineProps<{ records: Records }>()

const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()

const scroller = ref<HTMLElement>()
const entry = ref<InstanceType<typeof EntryLine>>()
const { width } = useElementSize(scroller)
const textWidth = computed(() => Math.min(640, Math.max(440, width.value * 0.53)))
const lanesWidth = computed(() => Math.max(0, width.value - textWidth.value))
const { rows, lanes, hiddenLanes, threads, pegsByRow, widen, fold, foldAll } = useSheet(lanesWidth)

const activeId = ref<string | null>(null)
const activeCell = ref<Cell>('name')
/** Rows chosen beside the active one, by id. */
const others = ref(new Set<string>())
const editing = ref<{ cell: Cell; text: string; says: string | null } | null>(null)

const activeIndex = computed(() => rows.value.findIndex((row) => row.id === activeId.value))
const activeRow = computed(() => rows.value[activeIndex.value])

const virtualizer = useVirtualizer(computed(() => ({ count: rows.value.length, getScrollElement: () => scroller.value ?? null, estimateSize: (i: number) => rowHeight(props.records, rows.value[i]!, textWidth.value), overscan: 12, scrollPaddingStart: 60, scrollPaddingEnd: 90 })))
const shown = computed(() => virtualizer.value.getVirtualItems())
// Heights follow from the texts: they are laid out again when those or the room for them change.
watch([rows, textWidth], () => virtualizer.value.measure())

function activate(index: number, cell: Cell = activeCell.value): void {
  const row = rows.value[Math.min(Math.max(index, 0), rows.value.length - 1)]
  if (!row) return
  activeId.value = row.id
  activeCell.value = cell
  virtualizer.value.scrollToIndex(rows.value.indexOf(row))
  const target = recordOf(row)
  if (target) selection.choose(target.kind, target.key)
}

// What is chosen elsewhere (a tick, the rail, a finding) is shown here.
watch(() => selection.chosen, (chosen) => {
  if (!chosen || recordOf(activeRow.value)?.key === chosen.key) return
  const index = rows.value.findIndex((row) => recordOf(row)?.key === chosen.key)
  if (index >= 0) activate(index, 'name')
})

function focusGrid(): void {
  scroller.value?.focus()
}

function pick(index: number, cell: Cell, event: MouseEvent): void {
  if (event.shiftKey && activeIndex.value >= 0) {
    const [from, to] = [Math.min(index, activeIndex.value), Math.max(index, activeIndex.value)]
    others.value = new Set(rows.value.slice(from, to + 1).map((row) => row.id))
    event.preventDefault()
  } else if (event.ctrlKey || event.metaKey) {
    const next = new Set(others.value)
    const id = rows.value[index]!.id
    if (!next.delete(id)) next.add(id)
    others.value = next
  } else {
    others.value = new Set()
    activate(index, cell)
  }
}

function startEdit(cell: Cell = activeCell.value): void {
  const row = activeRow.value
  if (!row || row.type === 'heading') return
  if (cell === 'role') return void commitDiff(toggleRole(props.records, row))
  editing.value = { cell, text: cellText(props.records, row, cell), says: null }
}

function commitDiff(diff: Diff | null): void {
  if (diff) plan.edit(diff)
}

function commit(text: string, then: 'stay' | 'next' | 'previous'): void {
  const row = activeRow.value
  const edit = editing.value
  if (!row || !edit) return
  if (text !== edit.text) {
    const edited = editCell(props.records, row, edit.cell, text)
    if ('says' in edited) {
      editing.value = { ...edit, says: edited.says }
      return
    }
    plan.edit(edited.diff)
  }
  editing.value = null
  void nextTick(() => (then === 'stay' ? focusGrid() : goOn(then === 'next' ? 1 : -1)))
}

/** Tab goes on to the next cell that is typed in, and from the last one to the next row. */
function goOn(by: 1 | -1): void {
  const typed: Cell[] = ['name', 'asks']
  const at = typed.indexOf(activeCell.value) + by
  if (at >= 0 && at < typed.length) activeCell.value = typed[at]!
  else {
    const next = activeIndex.value + by
    if (next < 0 || next >= rows.value.length) return focusGrid()
    activate(next, by === 1 ? 'name' : 'asks')
  }
  startEdit()
}

function cancel(): void {
  editing.value = null
  void nextTick(focusGrid)
}

function moveCell(by: 1 | -1): void {
  const at = cells.indexOf(activeCell.value) + by
  activeCell.value = cells[Math.min(Math.max(at, 0), cells.length - 1)]!
}

function removeChosen(): void {
  const chosen = rows.value.filter((row) => others.value.has(row.id))
  const all = chosen.length ? chosen : activeRow.value ? [activeRow.value] : []
  const next = rows.value.find((row, i) => i > activeIndex.value && !all.includes(row)) ?? rows.value[activeIndex.value - 1]
  commitDiff(removeRows(props.records, all))
  others.value = new Set()
  if (next) activeId.value = next.id
}

function moveActive(by: 1 | -1): void {
  const row = activeRow.value
  if (!row) return
  commitDiff(moveRow(props.records, rows.value, row, by))
  void nextTick(() => virtualizer.value.scrollToIndex(activeIndex.value))
}

function double(): void {
  const key = newKey()
  const diff = activeRow.value ? doubleRow(props.records, activeRow.value, key) : null
  if (!diff) return
  plan.edit(diff)
  void nextTick(() => activate(rows.value.findIndex((row) => row.id === key)))
}

const keys: Record<string, () => void> = {
  ArrowDown: () => activate(activeIndex.value + 1),
  ArrowUp: () => activate(activeIndex.value - 1),
  ArrowRight: () => (activeRow.value?.type === 'place' && activeRow.value.folded ? fold(activeRow.value.place.key) : moveCell(1)),
  ArrowLeft: () => (activeRow.value?.type === 'place' && !activeRow.value.folded && activeCell.value === 'name' ? fold(activeRow.value.place.key) : moveCell(-1)),
  PageDown: () => activate(activeIndex.value + 20),
  PageUp: () => activate(activeIndex.value - 20),
  Home: () => activate(0),
  End: () => activate(rows.value.length - 1),
  Enter: () => startEdit(),
  F2: () => startEdit(),
  Delete: removeChosen,
  'Alt+ArrowDown': () => moveActive(1),
  'Alt+ArrowUp': () => moveActive(-1),
  'Ctrl+d': double,
  Escape: () => {
    others.value = new Set()
    selection.clear()
  },
}

function onKey(event: KeyboardEvent): void {
  if (editing.value) return
  const name = `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${event.key}`
  const action = keys[name]
  if (!action) return
  event.preventDefault()
  event.stopPropagation()
  action()
}

function enter(reading: ReturnType<typeof readEntry>): void {
  const added = addEntry(props.records, reading, activeRow.value, check.routeKey)
  if ('says' in added) return
  plan.edit(added.diff)
  void nextTick(() => {
    const index = rows.value.findIndex((row) => recordOf(row)?.key === added.key)
    if (index >= 0) activate(index, 'name')
  })
}

function goToTrouble(by: 1 | -1): void {
  const isTrouble = (index: number) => {
    const row = rows.value[index]
    const verdict = row?.type === 'gate' ? check.gate(row.gate.id)?.verdict : undefined
    return verdict === 'short' || verdict === 'sealed' || verdict === 'depends' || (row?.type !== 'heading' && row !== undefined && (check.issuesByKey.get(recordOf(row)?.key ?? '')?.length ?? 0) > 0)
  }
  const n = rows.value.length
  const start = activeIndex.value < 0 ? (by === 1 ? -1 : 0) : activeIndex.value
  for (let step = 1; step <= n; step++) {
    const index = (((start + by * step) % n) + n) % n
    if (isTrouble(index)) return activate(index, 'name')
  }
}

defineExpose({ goToTrouble, foldAll, focusEntry: () => entry.value?.focus(), focusGrid })

const rowsWidth = toRef(() => `${textWidth.value}px`)
function issuesOf(index: number) {
  return check.issuesByKey.get(recordOf(rows.value[index])?.key ?? '') ?? []
}
function gateOf(index: number) {
  const item = itemOf(rows.value[index])
  return item?.kind === 'gate' ? check.gate(item.row.id) : undefined
}
</script>

<template>
  <section class="sheet" :class="{ late: check.progress !== null }" aria-label="Route sheet">
    <div class="heads">
      <div class="texthead" :style="{ width: rowsWidth }"><span></span><span>In order of play</span><span>gives / asks for</span><span>role</span><span class="num">verdict</span></div>
      <LaneHeads :lanes="lanes" :hidden="hiddenLanes" :width="lanesWidth" @widen="widen" />
    </div>
    <div class="body">
      <div
        ref="scroller" class="scroller" tabindex="0" role="grid" aria-label="Rows of the route" :aria-rowcount="rows.length" data-test="sheet"
        :aria-activedescendant="activeId ? `row-${activeIndex}` : undefined" @keydown="onKey"
      >
        <svg width="0" height="0" class="defs" aria-hidden="true"><defs><pattern id="lost" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="5" stroke="var(--short)" stroke-width="1.6" /></pattern></defs></svg>
        <div class="all" :style="{ height: `${virtualizer.getTotalSize()}px` }">
          <div
            v-for="item in shown" :id="`row-${item.index}`" :key="rows[item.index]!.id" class="line" role="row" :aria-rowindex="item.index + 1" :aria-selected="item.index === activeIndex"
            :class="{ place: rows[item.index]!.type === 'place', chosen: item.index === activeIndex || others.has(rows[item.index]!.id) }"
            :style="{ transform: `translateY(${item.start}px)`, height: `${item.size}px`, zIndex: editing && item.index === activeIndex ? 4 : undefined }" :data-test="`row ${rows[item.index]!.type}`"
          >
            <SheetRowView
              :row="rows[item.index]!" :records="records" :gate="gateOf(item.index)" :issues="issuesOf(item.index)" :style="{ width: rowsWidth }"
              :active="item.index === activeIndex" :chosen="item.index === activeIndex || others.has(rows[item.index]!.id)" :active-cell="activeCell"
              :editing="item.index === activeIndex ? editing : null"
              @pick="(cell, event) => pick(item.index, cell, event)" @edit="(cell) => { activate(item.index, cell); startEdit(cell) }"
              @fold="rows[item.index]!.type === 'place' && fold((rows[item.index] as { place: { key: string } }).place.key)" @commit="commit" @cancel="cancel"
            />
            <RowLanes
              v-if="lanesWidth > 0" :lanes="lanes" :index="item.index" :height="item.size" :width="lanesWidth" :pegs="pegsByRow.get(item.index) ?? []"
              :verdict="gateOf(item.index)?.verdict" :threads="threads" @mousedown="activate(item.index)"
            />
          </div>
        </div>
      </div>
      <RouteRail :rows="rows" :first="shown[0]?.index ?? 0" :last="shown.at(-1)?.index ?? 0" @go="(index) => activate(index, 'name')" />
    </div>
    <EntryLine ref="entry" :records="records" :row="activeRow" @enter="enter" @leave="focusGrid" />
  </section>
</template>

<style scoped>
.sheet { display: flex; flex-direction: column; height: 100%; min-width: 0; }
.heads { border-bottom: 1px solid var(--line); display: flex; flex: none; height: 56px; padding-right: 26px; }
.texthead { align-items: end; color: var(--soft); display: grid; flex: none; font-size: 12px; grid-template-columns: 22px minmax(0, 1fr) minmax(0, 1.34fr) 30px 58px; padding: 0 0 6px 8px; }
.texthead span { padding: 0 4px; }
.texthead .num { padding-right: 8px; }
.late :deep(.verdict), .late :deep(.lanes) { opacity: 0.45; }
.body { display: flex; flex: 1; min-height: 0; }
.scroller { flex: 1; min-width: 0; overflow-x: hidden; overflow-y: auto; scrollbar-width: none; }
/* The active cell shows where the focus is; see SheetRow. */
.scroller:focus-visible { outline: none; }
.defs { position: absolute; }
.all { position: relative; }
.line { border-bottom: 1px solid color-mix(in srgb, var(--line) 55%, transparent); display: flex; left: 0; position: absolute; top: 0; width: 100%; }
.line.place { background: var(--panel); }
.line.chosen { background: var(--mark); }
</style>
