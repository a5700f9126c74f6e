<script lang="ts">
/** Heights that were made last, and how often fonts have come: who comes back to the sheet finds them. */
let heightsLast: Heights | undefined
const fonts = ref(0)
</script>

<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, onUnmounted, provide, ref, toRef, watch } from 'vue'
import { isTrouble } from '../../../core/check/result.ts'
import { setFields } from '../../../core/change/edits.ts'
import type { Diff } from '../../../core/change/diff.ts'
import { withThreshold } from '../../../core/change/threshold.ts'
import type { EntryReading } from '../../../core/exchange/entry-line.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { Records } from '../../../core/plan/records.ts'
import { sameList } from '../../../core/plan/same-list.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import type { Peg } from '../../../core/view/pegs.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { sameFields, stable } from '../../stable.ts'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import { areFontsThere } from '../../fonts.ts'
import { useCalm } from '../../use-calm.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import DragTip from './DragTip.vue'
import EntryLine from './EntryLine.vue'
import LaneHeads from './LaneHeads.vue'
import LaneReadout from './LaneReadout.vue'
import PasteDialog from './PasteDialog.vue'
import RouteRail from './RouteRail.vue'
import SelectionBar from './SelectionBar.vue'
import SheetLine from './SheetLine.vue'
import { lineSlots, type Slot } from './line-slots.ts'
import { inViewFirst, lanesBeside } from './lanes-beside.ts'
import { addEntry, doubleRows, entryContext, entryPlaceBefore, entrySpot, itemOf, moveRow, moveRows, recordOf, removeRows, type Added, type Cell } from './sheet-actions.ts'
import { useSheetStore } from './sheet-store.ts'
import { heightsAt, rowHeights, sumsIn, type Heights } from './row-height.ts'
import { useCellEditing } from './use-cell-editing.ts'
import { useCopiedRows } from './use-copied-rows.ts'
import { useDrag } from './use-drag.ts'
import { useKeptInView } from './use-kept-in-view.ts'
import { useLaneChoice } from './use-lane-choice.ts'
import { useLaneZoom } from './use-lane-zoom.ts'
import { useLeftSheet } from './use-left-sheet.ts'
import { useRowChoice } from './use-row-choice.ts'
import { useRowsAround } from './use-rows-around.ts'
import { useSheet } from './use-sheet.ts'

/** The sheet of the route: rows edited in place, and beside each the lanes of what it does. */
const props = defineProps<{ records: Records }>()

const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()
const folds = useSheetStore()

const scroller = ref<HTMLElement>()
const entry = ref<InstanceType<typeof EntryLine>>()
const heads = ref<InstanceType<typeof LaneHeads>>()
const selectionBar = ref<InstanceType<typeof SelectionBar>>()
const paste = ref<InstanceType<typeof PasteDialog>>()
const finder = ref<HTMLInputElement>()
const { width: widthNow } = useElementSize(scroller)
/** For a moment after it is put in, the sheet is told to have no width. */
const width = computed<number>((before = 0) => widthNow.value || before)
const textWidth = computed(() => Math.min(640, Math.max(440, width.value * 0.53)))
const lanesWidth = computed(() => Math.max(0, width.value - textWidth.value))
const choice = useLaneChoice()
const { rows, allRows, indices, lanes, crowded, threadsAt, pegsAt, gateRows, sums, find, found, firstFound } = useSheet(lanesWidth, choice)
const { wanted, sought } = find
/** From looking for rows to the first that was found, or one after it. */
function goToFound(index = 0): void {
  find.seek()
  focusGrid()
  goTo(Math.max(index, firstFound.value))
}

/** More rows than this that come or go at once are not typed. */
const aFew = 20

areFontsThere(() => fonts.value++)
const noHeights = new Float64Array()
const measured = computed(() => {
  if (width.value > 0) heightsLast = rowHeights(allRows.value, { records: props.records, sums: sums.value, textWidth: textWidth.value, fonts: fonts.value }, heightsLast)
  return width.value > 0 ? heightsLast : undefined
})
const heights = stable(() => (measured.value ? heightsAt(measured.value, indices.value) : noHeights), sameList)
const { rangeExtractor, hasLanes, isInView, jump } = useRowsAround(() => check.isStale)
/** Of rows around those in view, lanes are drawn anew when the others stand. */
const { calm: lanesAround } = useCalm(() => lanes.value)
provide(lanesBeside, inViewFirst(() => lanes.value, () => lanesAround.value, isInView))
// What is found, or unfolded, comes into view all at once.
watch(() => rows.value.length, (now, before) => {
  if (Math.abs(now - before) > aFew) jump()
})
const virtualizer = useVirtualizer(computed(() => ({ count: heights.value.length, getScrollElement: () => scroller.value ?? null, estimateSize: (i: number) => heights.value[i]!, rangeExtractor: rangeExtractor.value, scrollPaddingStart: 60, scrollPaddingEnd: 90 })))
const shown = computed(() => virtualizer.value.getVirtualItems().filter((item) => item.index < rows.value.length))
const slots = computed<Map<string, Slot>>((before) => lineSlots(shown.value.map(({ index }) => rows.value[index]!), before))
/** The last stop in view; Infinity: what is in view last stands at none. */
const lastStop = computed(() => {
  const row = rows.value[shown.value.at(-1)?.index ?? -1]
  return row && row.type !== 'heading' ? (row.stop ?? Infinity) : Infinity
})
watch(lastStop, check.seeUntil, { immediate: true })
onUnmounted(() => check.seeUntil(Infinity))
// Rows are laid out again when some height is another.
watch(heights, () => virtualizer.value.measure())

const scrollTo = (index: number) => virtualizer.value.scrollToIndex(index)
const { activeId, activeCell, others, activeIndex, activeRow, chosenRows, chosenItems, isChosen, indexOn, activate, goTo, extendTo, pick, chooseAll, choose, moveCell, clear } = useRowChoice(rows, scrollTo)
/** The row under the pointer, which is read out. */
const hovered = ref<number | null>(null)
const readIndex = computed(() => hovered.value ?? activeIndex.value)
watch(activeIndex, () => (hovered.value = null))

/** A row that is scrolled under a pointer at rest is not meant. */
function hover(event: MouseEvent, index: number): void {
  if (event.movementX || event.movementY) hovered.value = index
}

function rowAt(clientY: number): number {
  const box = scroller.value!.getBoundingClientRect()
  const y = clientY - box.top + scroller.value!.scrollTop
  const at = shown.value.find((item) => y < item.start + item.size / 2)
  return at ? at.index : (shown.value.at(-1)?.index ?? -1) + 1
}
const { drag, pegDown, rowDown } = useDrag(() => props.records, rows, { rowAt, scroller, drop }, () => chosenItems.value)

// What is chosen elsewhere (a tick, the rail, a finding) is shown here.
watch(() => selection.chosen, (chosen) => {
  if (chosen && recordOf(activeRow.value)?.key !== chosen.key) reveal([chosen.key])
})

/** Goes to the first row of some records, also where what is looked for, or a folded place, hides it. */
function reveal(keys: readonly string[], cell: Cell = 'name'): void {
  const all = new Set(keys)
  const indexOf = () => rows.value.findIndex((row) => all.has(recordOf(row)?.key ?? ''))
  if (indexOf() >= 0) return goTo(indexOf(), cell)
  const hidden = keys.find((key) => props.records.source.has(key) || props.records.gate.has(key) || props.records.place.has(key))
  if (hidden === undefined) return
  wanted.value = ''
  const place = (props.records.source.get(hidden) ?? props.records.gate.get(hidden))?.place
  if (place && folds.folded.has(place)) folds.fold(place)
  void nextTick(() => indexOf() >= 0 && goTo(indexOf(), cell))
}

/** Shows what a step is about, wherever the sheet stands; rows that are chosen for more of the same stay chosen. */
function show(diff: Diff | null): void {
  const keys = new Set(diff?.changes.map((change) => change.key))
  if (!chosenRows.value.some((row) => keys.has(recordOf(row)?.key ?? ''))) reveal([...keys], activeCell.value)
}
watch(() => plan.turned, (diff) => void nextTick(() => show(diff)))

/** What was dragged is let go. */
function drop(diff: Diff): void {
  plan.edit(diff)
  void nextTick(() => show(diff))
}

function focusGrid(): void {
  scroller.value?.focus({ preventScroll: true })
}

const revealOne = (key: string) => reveal([key], activeCell.value)
const { fold, foldAll } = useKeptInView(scroller, sought, { activeIndex, activeRow }, scrollTo, revealOne)
useLeftSheet({ scroller, hasRows: () => heights.value.length > 0, active: { activeId, activeCell, activeRow }, find, reveal: revealOne, focus: focusGrid })
const { editing, startEdit, commit, cancel } = useCellEditing(() => props.records, { rows, activeRow, activeCell, activeIndex, goTo }, focusGrid)
const { onCopy, copyChosen } = useCopiedRows(() => props.records, chosenItems, () => editing.value !== null)
const { zoom, pan } = useLaneZoom(lanes, choice, activeIndex)

function commitDiff(diff: Diff | null): void {
  if (diff) plan.edit(diff)
}

function removeChosen(): void {
  const at = rows.value.findIndex((row) => chosenRows.value.includes(row))
  commitDiff(removeRows(props.records, chosenRows.value))
  clear()
  void nextTick(() => {
    goTo(at)
    focusGrid()
  })
}

function moveActive(by: 1 | -1): void {
  const row = activeRow.value
  if (!row) return
  if (chosenItems.value.length > 1) return commitDiff(moveRows(props.records, rows.value, chosenRows.value, by))
  commitDiff(moveRow(props.records, rows.value, row, by, check.routeKey))
  void nextTick(() => {
    const index = row.type === 'place' ? rows.value.findIndex((other) => other.type === 'place' && other.place.key === row.place.key) : activeIndex.value
    if (index >= 0) activate(index)
  })
}

function double(): void {
  const doubled = doubleRows(props.records, chosenRows.value, check.routeKey)
  if (!doubled) return
  plan.edit(doubled.diff)
  const { keys } = doubled
  void nextTick(() => {
    reveal(keys)
    if (keys.length > 1) choose(keys)
  })
}

/** Moves a gate's threshold in the wide lane, or its first one, by one. */
function nudge(by: 1 | -1): void {
  const row = activeRow.value
  if (row?.type !== 'gate') return
  const pegs = pegsAt(activeIndex.value)
  const peg = pegs.find((one) => one.lane === choice.wide.value) ?? pegs[0]
  const asked = peg && withThreshold(row.gate, peg, peg.at + by)
  if (peg && asked) plan.edit(setFields(props.records, 'gate', row.gate.key, asked, `${labelOf(row.gate)} asks for ${numberText(peg.at + by)} instead of ${numberText(peg.at)}`))
}

const keys: Record<string, () => void> = {
  ArrowDown: () => goTo(indexOn(1)),
  ArrowUp: () => goTo(indexOn(-1)),
  'Shift+ArrowDown': () => extendTo(indexOn(1)),
  'Shift+ArrowUp': () => extendTo(indexOn(-1)),
  ArrowRight: () => (activeRow.value?.type === 'place' && activeRow.value.folded ? fold(activeRow.value.place.key) : moveCell(1)),
  ArrowLeft: () => (activeRow.value?.type === 'place' && !activeRow.value.folded && activeCell.value === 'name' ? fold(activeRow.value.place.key) : moveCell(-1)),
  PageDown: () => goTo(indexOn(20)),
  PageUp: () => goTo(indexOn(-20)),
  'Shift+PageDown': () => extendTo(indexOn(20)),
  'Shift+PageUp': () => extendTo(indexOn(-20)),
  Home: () => goTo(0),
  End: () => goTo(rows.value.length - 1),
  Enter: () => startEdit(),
  F2: () => startEdit(),
  Delete: removeChosen,
  'Alt+ArrowDown': () => moveActive(1),
  'Alt+ArrowUp': () => moveActive(-1),
  'Alt+ArrowRight': () => nudge(1),
  'Alt+ArrowLeft': () => nudge(-1),
  'Ctrl+d': double,
  'Ctrl+a': chooseAll,
  Escape: () => (others.value.size ? clear() : wanted.value ? (wanted.value = '') : selection.clear()),
}

function onKey(event: KeyboardEvent): void {
  if (editing.value) return
  const shift = event.shiftKey && event.key.length > 1 ? 'Shift+' : ''
  const action = keys[`${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${shift}${event.key}`]
  if (!action) return
  event.preventDefault()
  event.stopPropagation()
  action()
}

function onPaste(event: ClipboardEvent): void {
  if (editing.value) return
  event.preventDefault()
  paste.value?.open(event.clipboardData?.getData('text/plain') ?? '')
}

function afterPaste(keys: string[]): void {
  void nextTick(() => {
    reveal(keys)
    choose(keys)
    focusGrid()
  })
}

const add = (reading: EntryReading) => addEntry(props.records, reading, activeRow.value, check.routeKey)
function enter({ diff, key }: Added): void {
  plan.edit(diff)
  void nextTick(() => reveal([key]))
}

function goToTrouble(by: 1 | -1): void {
  const needsMending = (index: number) => {
    const row = rows.value[index]
    const verdict = row?.type === 'gate' ? check.gate(row.gate.id)?.verdict : undefined
    return isTrouble(verdict) || issuesOf(index).length > 0
  }
  const n = rows.value.length
  const start = activeIndex.value < 0 ? (by === 1 ? -1 : 0) : activeIndex.value
  for (let step = 1; step <= n; step++) {
    const index = (((start + by * step) % n) + n) % n
    if (needsMending(index)) return goTo(index, 'name')
  }
}

defineExpose({
  goToTrouble, foldAll, zoom, focusGrid, copyChosen,
  focusEntry: () => entry.value?.focus(),
  focusFinder: () => finder.value?.select(),
  openPaste: () => paste.value?.open(''),
  changeChosen: () => (chosenRows.value.length > 1 ? selectionBar.value?.focus() : chooseAll()),
  chooseLanes: () => heads.value?.chooseLanes(),
})

const rowsWidth = toRef(() => `${textWidth.value}px`)
const spot = computed(() => entrySpot(props.records, activeRow.value))
const spotName = computed(() => {
  const place = props.records.place.get(spot.value?.place ?? '')
  return place ? labelOf(place) : null
})
const context = computed(() => entryContext(props.records, spot.value?.place ?? null, entryPlaceBefore(props.records, activeRow.value, check.routeKey)))
/** Edits that leave the patterns as they are leave what texts are written from. */
const patterns = stable(() => ({ pattern: props.records.pattern }), sameFields)
const issuesOf = (index: number) => check.issuesOf(recordOf(rows.value[index])?.key ?? '')
const editingOf = (index: number) => (editing.value?.row === rows.value[index]!.id ? editing.value : null)
function gateOf(index: number) {
  const item = itemOf(rows.value[index])
  return item?.kind === 'gate' ? check.gate(item.row.id) : undefined
}
function verdictOf(index: number) {
  const item = itemOf(rows.value[index])
  return item?.kind === 'gate' ? check.shownVerdict(item.row.id) : undefined
}
function editAt(index: number, cell: Cell): void {
  goTo(index, cell)
  startEdit(cell)
}
function foldRow(row: SheetRow): void {
  if (row.type === 'place') fold(row.place.key)
}
function grabPeg(event: PointerEvent, row: SheetRow, peg: Peg, lane: DrawnLane): void {
  if (row.type === 'gate') pegDown(event, row.gate, peg, lane, scroller.value!.getBoundingClientRect().left + textWidth.value)
}
const draggedPeg = (index: number) => (drag.value?.peg?.row === rows.value[index]!.id ? drag.value.peg : undefined)
</script>

<template>
  <section class="sheet" :class="{ late: check.progress !== null && !check.isRough, dragging: drag }" aria-label="Route sheet">
    <div class="heads">
      <div class="texthead" :style="{ width: rowsWidth }">
        <span></span>
        <span class="find"><input ref="finder" v-model="wanted" type="search" placeholder="Find rows (Ctrl+F)" aria-label="Find rows" data-test="find" @focus="find.prepare" @keydown.esc.stop.prevent="wanted = ''; focusGrid()" @keydown.enter.prevent="goToFound(activeIndex)" @keydown.down.prevent="goToFound()" /></span>
        <span data-test="found">{{ sought ? `${countText(found, 'row')} found` : 'gives / asks for' }}</span><span>role</span><span class="num">verdict</span>
      </div>
      <LaneHeads ref="heads" :lanes="lanes" :choice="choice" :crowded="crowded" :width="lanesWidth" @zoom="zoom" @pan="pan" />
    </div>
    <div class="body">
      <div
        ref="scroller" class="scroller" :style="{ '--text-width': rowsWidth }" tabindex="0" role="grid" aria-label="Rows of the route" aria-describedby="lane-readout" aria-multiselectable="true" :aria-busy="check.isStale" :data-look="check.look" :aria-rowcount="rows.length" data-test="sheet"
        :aria-activedescendant="activeId && activeIndex >= 0 ? `row-${activeIndex}` : undefined" @keydown="onKey" @copy="onCopy" @paste="onPaste" @mouseleave="hovered = null"
      >
        <svg width="0" height="0" class="defs" aria-hidden="true"><defs><pattern id="lost" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="5" stroke="var(--short)" stroke-width="1.6" /></pattern></defs></svg>
        <div class="all" role="presentation" :style="{ height: `${virtualizer.getTotalSize()}px` }">
          <SheetLine
            v-for="{ index, start, size } in shown" :key="slots.get(rows[index]!.id)" :row="rows[index]!" :index="index" :top="start" :height="size" :records="patterns"
            :gate="gateOf(index)" :verdict="verdictOf(index)" :issues="issuesOf(index)" :sums="sumsIn(sums, rows[index])"
            :chosen="isChosen(index)" :active-cell="index === activeIndex ? activeCell : null" :editing="editingOf(index)" :drop-before="drag?.before === index"
            :lanes-width="hasLanes() ? lanesWidth : 0" :pegs="pegsAt(index)" :threads="threadsAt(index)" :dragged-peg="draggedPeg(index)"
            @pick="pick" @edit="editAt" @fold="foldRow" @commit="commit" @cancel="cancel" @hover="hover" @choose="goTo" @grab-row="rowDown" @grab-peg="grabPeg"
          />
        </div>
        <p v-if="!rows.length" class="soft nothing">{{ sought ? `No row has “${sought}” in it.` : 'There are no rows yet.' }}</p>
      </div>
      <svg class="grid" :width="lanesWidth" height="100%" aria-hidden="true" :style="{ left: rowsWidth }">
        <g v-for="lane in lanes" :key="lane.id"><line :x1="lane.left" y1="0" :x2="lane.left" y2="100%" /><line v-for="tick in lane.ticks" :key="tick.x" class="tick" :x1="tick.x" y1="0" :x2="tick.x" y2="100%" /></g>
      </svg>
      <div class="ring" />
      <RouteRail :gates="gateRows" :rows="rows.length" :first="shown[0]?.index ?? 0" :last="shown.at(-1)?.index ?? 0" @go="(index) => goTo(index, 'name')" />
    </div>
    <LaneReadout :row="rows[readIndex]" :index="readIndex" :lanes="lanes" />
    <SelectionBar v-if="others.size > 1 && chosenRows.length" ref="selectionBar" :records="records" :items="chosenItems" :rows="chosenRows.length" @copy="copyChosen" @remove="removeChosen" @leave="clear(); focusGrid()" />
    <EntryLine ref="entry" :context="context" :place-name="spotName" :add="add" @enter="enter" @leave="focusGrid" />
    <PasteDialog ref="paste" :records="records" :context="context" :spot="spot" @pasted="afterPaste" />
    <DragTip v-if="drag" :drag="drag" />
  </section>
</template>

<style scoped>
.sheet { display: flex; flex-direction: column; height: 100%; min-width: 0; }
.heads { border-bottom: 1px solid var(--line); display: flex; flex: none; height: 56px; padding-right: 26px; }
.texthead { align-items: end; color: var(--soft); display: grid; flex: none; font-size: 12px; grid-template-columns: 22px minmax(0, 1fr) minmax(0, 1.34fr) 30px 58px; padding: 0 0 6px 8px; }
.texthead span { padding: 0 4px; }
.texthead .num { padding-right: 8px; }
.texthead .find { padding: 0 6px 0 0; }
.find input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 12px; padding: 3px 6px; width: 100%; }
.find input::placeholder { color: var(--soft); opacity: 1; }
.late :deep(.verdict), .late :deep(.lanes) { opacity: 0.45; }
.dragging { cursor: grabbing; user-select: none; }
.body { display: flex; flex: 1; min-height: 0; position: relative; }
.grid { pointer-events: none; position: absolute; top: 0; }
.grid line { stroke: var(--line); }
.grid .tick { stroke-opacity: 0.6; }
.scroller { contain: strict; flex: 1; min-width: 0; overflow-x: hidden; overflow-y: auto; scrollbar-width: none; }
/* The active cell shows where the focus is (see SheetRow), and where there is none a ring around all rows. */
.scroller:focus-visible { outline: none; }
.ring { display: none; inset: 0 26px 0 0; outline: 2px solid var(--accent); outline-offset: -2px; pointer-events: none; position: absolute; z-index: 6; }
.scroller:focus-visible:not([aria-activedescendant]) ~ .ring { display: block; }
.defs { position: absolute; }
.all { position: relative; }
.nothing { padding: 24px; text-align: center; }
</style>
