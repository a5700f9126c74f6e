<script setup lang="ts">
import { useElementSize, useIntervalFn } from '@vueuse/core'
import { ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed, nextTick, onUnmounted, ref, shallowRef, watch } from 'vue'
import { keysOf } from '../../../core/plan/records.ts'
import { numberText } from '../../../core/view/numbers.ts'
import { chainOf, type MapGate, type MapPassage } from '../../../core/view/map.ts'
import { placeSize } from '../../../core/view/map-layout.ts'
import { ringThrough, wayBetween, withPins } from '../../../core/view/map-paths.ts'
import { addCommands } from '../../commands.ts'
import LockoutFixes from '../../components/dock/LockoutFixes.vue'
import PlanDock from '../../components/dock/PlanDock.vue'
import VerdictMark from '../../components/VerdictMark.vue'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { LongSearch } from '../../workers/long-search.ts'
import type { MapView } from '../../workers/search.worker.ts'
import ChosenPlace from './ChosenPlace.vue'
import MapFar from './MapFar.vue'
import { placeAt, useMapDrag } from './use-map-drag.ts'
import { useMapEdits } from './use-map-edits.ts'
import { useMapZoom } from './use-map-zoom.ts'
import { usePins } from './use-pins.ts'
import { useRouteDrawing } from './use-route-drawing.ts'
import { useWitness } from './use-witness.ts'
import { saveMap, type MapFormat } from './map-export.ts'
import { isWalkable, standingMarks, standingOf } from './map-state.ts'

/** What opens what: places in columns by wave, passages with the gates on them, and how it opens wave by wave. */
const plan = usePlanStore()
const check = useCheckStore()
const selection = useSelectionStore()

const { chosenKind, chosenKey, isDeletable, addPlace, addGate, turn, remove, joinPlaces } = useMapEdits()
const view = shallowRef<MapView | null>(null)
const failure = ref<string | null>(null)
const repeats = ref(false)
const wave = ref(0)
const showsRoute = ref(true)
/** The place from which a new passage is being drawn. */
const joining = ref<string | null>(null)
const search = new LongSearch(check.handPlan)
const svg = ref<SVGSVGElement>()

watch(() => plan.records, async (records) => {
  if (!records) return
  try {
    const found = await search.ask((remote) => remote.map())
    if (!found || plan.records !== records) return
    const isFirst = view.value === null
    view.value = found
    failure.value = null
    wave.value = Math.min(wave.value, last.value)
    if (isFirst) void nextTick(begin)
  } catch (error) {
    failure.value = (error as Error).message
  }
}, { immediate: true })
onUnmounted(() => search.end())

const data = computed(() => view.value?.data ?? null)
const { pins, pin, unpinAll } = usePins(() => plan.id ?? '')
const layout = computed(() => (view.value ? withPins(view.value.layouts[repeats.value ? 'repeated' : 'once'], pins.value) : null))
const { transform, fit, begin, zoomBy, show } = useMapZoom(svg, layout)
const waves = computed(() => data.value?.waves[repeats.value ? 'repeated' : 'once'] ?? [])
const last = computed(() => Math.max(0, waves.value.length - 1))
const gateOf = computed(() => new Map(data.value?.gates.map((gate) => [gate.key, gate]) ?? []))
const placeOf = computed(() => new Map(data.value?.places.map((place) => [place.key, place]) ?? []))
const { drawing, drawingSays, beginRoute, draw, endRoute } = useRouteDrawing(data, placeOf, () => svg.value?.focus())
const standing = (gate: MapGate) => standingOf(gate.waves, repeats.value, wave.value)
const openPlaces = computed(() => new Set(data.value?.places.filter((place) => standingOf(place.waves, repeats.value, wave.value) === 'open').map(({ key }) => key) ?? []))
const next = computed(() => data.value?.gates.filter((gate) => standing(gate) === 'next') ?? [])

const chosenGate = computed(() => (selection.chosen?.kind === 'gate' ? gateOf.value.get(selection.chosen.key) : undefined))
/** A closed gate and what it waits on; empty: nothing of the kind is chosen. */
const chain = computed(() => (data.value && chosenGate.value && chosenGate.value.waves.repeated === null ? chainOf(data.value, chosenGate.value.key) : new Set<string>()))
const litPlaces = computed(() => new Set([...chain.value].flatMap((key) => gateOf.value.get(key)?.place ?? [])))
const ring = computed(() => ringThrough((chosenGate.value?.ring ?? []).flatMap((key) => layout.value?.places[gateOf.value.get(key)?.place ?? ''] ?? [])))

/** Where one-way passages lead away from main content for good. */
const lossy = computed(() => new Set(check.findings.filter(({ id }) => id === 'one-way-loss').map(({ item }) => item.id)))
/** Where each passage runs, which no wave changes. */
const shapes = computed(() => (data.value && layout.value ? data.value.passages.map((passage) => ({ passage, ...wayBetween(layout.value!.places[passage.from]!, layout.value!.places[passage.to]!, layout.value!), gates: passage.gates.map((key) => gateOf.value.get(key)!).slice(0, 4) })) : []))
const isWayOpen = (passage: MapPassage) => isWalkable(passage, openPlaces.value, gateOf.value, repeats.value, wave.value)
/** Of a large map only what is in sight is drawn, and from afar no more than blocks. */
const drawsAll = ref(false)
const isLarge = computed(() => !drawsAll.value && (data.value?.places.length ?? 0) > 150)
const isFar = computed(() => isLarge.value && transform.value.k < 0.55)
const { width: roomWide, height: roomHigh } = useElementSize(svg)
/** What is in sight, in steps of some places: moving a little draws nothing anew. */
const sightStep = { x: 640, y: 360 }
const sight = computed(() => {
  const [left, top] = transform.value.invert([0, 0])
  const [right, bottom] = transform.value.invert([roomWide.value, roomHigh.value])
  const { x, y } = sightStep
  return { left: Math.floor((left - placeSize.width) / x) * x, top: Math.floor((top - placeSize.height) / y) * y, right: Math.ceil((right + placeSize.width) / x) * x, bottom: Math.ceil((bottom + placeSize.height) / y) * y }
})
function isInSight(key: string): boolean {
  const spot = layout.value!.places[key]!
  const { left, top, right, bottom } = sight.value
  return spot.x >= left && spot.x <= right && spot.y >= top && spot.y <= bottom
}
const shownPlaces = computed(() => (isFar.value || !data.value ? [] : isLarge.value ? data.value.places.filter(({ key }) => isInSight(key)) : data.value.places))
const ways = computed(() => (isFar.value ? [] : shapes.value.filter(({ passage }) => !isLarge.value || isInSight(passage.from) || isInSight(passage.to)).map((shape) => ({ ...shape, shape, loses: lossy.value.has(shape.passage.id), isOpen: isWayOpen(shape.passage) }))))
const farShapes = computed(() => (isFar.value ? shapes.value.map(({ passage, path }) => ({ passage, path: new Path2D(path) })) : []))
const farWays = computed(() => farShapes.value.map(({ passage, path }) => ({ path, isOpen: isWayOpen(passage) })))
const farPlaces = computed(() => (isFar.value && data.value ? data.value.places.map(({ key, waves: of }) => ({ key, isOpen: openPlaces.value.has(key), isNever: (repeats.value ? of.repeated : of.once) === null, isMarked: selection.chosen?.key === key || litPlaces.value.has(key) })) : []))
/** Gates that bar no way stand at the foot of the place in which they are met. */
const standingGates = computed(() => {
  const barring = new Set(data.value?.passages.flatMap(({ gates }) => gates))
  const byPlace = new Map<string, MapGate[]>()
  for (const gate of data.value?.gates ?? []) if (gate.place && !barring.has(gate.key)) byPlace.set(gate.place, [...(byPlace.get(gate.place) ?? []), gate])
  return byPlace
})

const stops = computed(() => {
  const byPlace = new Map<string, number[]>()
  const route = plan.records && check.routeKey ? plan.records.route.get(check.routeKey) : undefined
  if (!route || !showsRoute.value || !plan.records) return byPlace
  const keys = keysOf(plan.records, 'place')
  route.stops.forEach((id, i) => {
    const key = keys.get(id)
    if (key) byPlace.set(key, [...(byPlace.get(key) ?? []), i + 1])
  })
  return byPlace
})

const { witnessOf, witnessAt, witness, witnessPath, lockoutWords, lockoutTitles, lockoutsFound, follow, followTo } = useWitness(layout, (key) => show(key))

function choosePlace(key: string): void {
  if (drawing.value) return draw(key)
  if (joining.value) return join(key)
  selection.choose('place', key)
}

function join(to: string): void {
  const from = joining.value
  joining.value = null
  if (from) joinPlaces(from, to)
}
/** Puts the chosen place a little further in a direction. */
function nudge(dx: number, dy: number): void {
  const spot = chosenKind.value === 'place' ? layout.value?.places[chosenKey.value] : undefined
  if (spot) pin(chosenKey.value, { x: spot.x + dx * 30, y: spot.y + dy * 20 })
}
const drag = useMapDrag({ svg, transform, layout, move: pin, join: joinPlaces })
const dragLine = drag.line

/** From afar a place is found by where the click fell. */
function onFarClick(event: MouseEvent): void {
  const key = isFar.value && layout.value ? placeAt(layout.value, drag.pointOf(event)) : null
  if (key) choosePlace(key)
}

/** Goes to the place that lies nearest in a direction. */
function go(dx: number, dy: number): void {
  const places = Object.entries(layout.value?.places ?? {})
  const here = selection.chosen?.kind === 'place' ? layout.value?.places[selection.chosen.key] : undefined
  if (!here) return void (data.value?.start && choosePlace(data.value.start))
  const ahead = places.map(([key, spot]) => ({ key, along: (spot.x - here.x) * dx + (spot.y - here.y) * dy, across: Math.abs((spot.x - here.x) * dy) + Math.abs((spot.y - here.y) * dx) })).filter(({ along }) => along > 5)
  const nearest = ahead.sort((a, b) => a.along + a.across * 2 - (b.along + b.across * 2))[0]
  if (!nearest) return
  selection.choose('place', nearest.key)
  show(nearest.key)
}
const arrows: Record<string, [number, number]> = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }
function onKey(event: KeyboardEvent): void {
  const arrow = arrows[event.key]
  if (event.key === 'Escape') {
    if (joining.value) joining.value = null
    else if (drawing.value) drawing.value = null
    else selection.clear()
  }
  if (event.key === 'Enter' && drawing.value) return endRoute()
  if (!arrow) return
  event.preventDefault()
  if (event.altKey) return nudge(...arrow)
  go(...arrow)
  if (drawing.value && event.shiftKey && selection.chosen?.kind === 'place') draw(selection.chosen.key)
}

function step(by: number): void {
  wave.value = Math.min(Math.max(wave.value + by, 0), last.value)
}
const { pause, resume, isActive } = useIntervalFn(() => (wave.value >= last.value ? pause() : step(1)), 900, { immediate: false })
function play(): void {
  if (isActive.value) return pause()
  if (wave.value >= last.value) wave.value = 0
  resume()
}
watch(repeats, () => (wave.value = Math.min(wave.value, last.value)))

watch(() => selection.chosen, (chosen) => {
  if (chosen?.kind === 'place') show(chosen.key)
  if (chosen?.kind === 'gate') show(gateOf.value.get(chosen.key)?.place ?? '')
})

/** The picture that is given away has all in it, seen or not. */
async function save(format: MapFormat): Promise<void> {
  drawsAll.value = true
  await nextTick()
  try {
    if (data.value && svg.value && layout.value && plan.records) await saveMap(format, plan.records.head.id, data.value, svg.value, layout.value.width, layout.value.height)
  } catch (error) {
    failure.value = (error as Error).message
  }
  drawsAll.value = false
}

const takeBack = addCommands([
  { id: 'wave-next', title: 'Map: next wave', keys: ']', run: () => step(1) },
  { id: 'wave-before', title: 'Map: the wave before', keys: '[', run: () => step(-1) },
  { id: 'wave-play', title: 'Map: play the waves', keys: 'x', run: play },
  { id: 'repeats', title: 'Map: with or without repeats', keys: 'e', run: () => (repeats.value = !repeats.value) },
  { id: 'map-route', title: 'Map: show the route', keys: 'r', run: () => (showsRoute.value = !showsRoute.value) },
  { id: 'join', title: 'Map: join the chosen place to another', keys: 'j', run: () => (joining.value = selection.chosen?.kind === 'place' ? selection.chosen.key : null), enabled: () => selection.chosen?.kind === 'place' },
  { id: 'map-place', title: 'Map: a new place, joined to the chosen one', keys: 'a', run: addPlace },
  { id: 'map-gate', title: 'Map: a gate on the chosen passage or place', keys: 'g', run: addGate, enabled: () => chosenKind.value === 'passage' || chosenKind.value === 'place' },
  { id: 'map-turn', title: 'Map: the chosen passage leads one way, or both', keys: 'o', run: turn, enabled: () => chosenKind.value === 'passage' },
  { id: 'map-delete', title: 'Map: delete what is chosen', keys: 'Delete', run: remove, enabled: () => isDeletable.value },
  { id: 'map-unpin', title: 'Map: put the chosen place back where the layout has it', keys: 'b', run: () => pin(chosenKey.value, null), enabled: () => chosenKind.value === 'place' && chosenKey.value in pins.value },
  { id: 'map-unpin-all', title: 'Map: put all places back where the layout has them', run: unpinAll, enabled: () => Object.keys(pins.value).length > 0 },
  { id: 'map-nudge', title: 'Map: move the chosen place by hand', shown: 'Alt+arrows, drag', run: () => nudge(1, 0) },
  { id: 'draw-route', title: 'Map: draw a route, place by place', keys: 'd', run: beginRoute },
  { id: 'map-in', title: 'Map: nearer', keys: '+', run: () => zoomBy(1.4) },
  { id: 'map-out', title: 'Map: farther', keys: '-', run: () => zoomBy(1 / 1.4) },
  { id: 'map-fit', title: 'Map: all of it', keys: '0', run: fit },
  ...(['svg', 'png', 'graphml', 'dot'] as const).map((format) => ({ id: `map ${format}`, title: `Map: export as ${format === 'graphml' ? 'GraphML' : format.toUpperCase()}`, run: () => void save(format) })),
])
onUnmounted(takeBack)
const held = computed(() => waves.value[wave.value])
const shownHeld = computed(() => (held.value ? [...held.value.levels.map(({ id, level }) => `${id} level ${level}`), ...held.value.tallies.filter(({ amount }) => amount !== 0).map(({ id, amount }) => `${amount === null ? '∞' : numberText(amount)} ${id}`)] : []))
</script>

<template>
  <div v-if="plan.records" class="map">
    <section class="main" aria-label="Map of the plan">
      <header>
        <label class="wave">wave <input v-model.number="wave" type="range" min="0" :max="last" aria-label="Wave" data-test="wave" /> <b data-test="wave number">{{ wave }} of {{ last }}</b></label>
        <button class="quiet" :title="isActive ? 'Pause (x)' : 'Play the waves (x)'" data-test="play" @click="play">{{ isActive ? 'pause' : 'play' }}</button>
        <label><input v-model="repeats" type="checkbox" data-test="repeats" /> with repeats</label>
        <label><input v-model="showsRoute" type="checkbox" /> the route</label>
        <span class="space" />
        <button v-for="part in lockoutsFound" :key="part" class="quiet" :aria-pressed="witnessOf === part" :title="lockoutTitles[part]" :data-test="`follow ${part}`" @click="follow(part)">{{ lockoutWords[part] }}</button>
        <button class="quiet" title="A new place, joined to the chosen one (a)" data-test="add place" @click="addPlace">+ place</button>
        <button v-if="chosenKind === 'place' || chosenKind === 'passage'" class="quiet" :title="`A gate on the chosen ${chosenKind} (g)`" data-test="add gate" @click="addGate">+ gate</button>
        <button v-if="chosenKind === 'passage'" class="quiet" title="One way, or both (o)" data-test="one way" @click="turn">one way</button>
        <button v-if="Object.keys(pins).length" class="quiet" title="All places back where the layout has them" data-test="unpin" @click="unpinAll">unpin {{ Object.keys(pins).length }}</button>
        <button class="quiet" title="Draw a route (d)" data-test="draw route" @click="beginRoute">Draw a route</button>
        <button class="quiet" aria-label="Farther" title="Farther (-)" @click="zoomBy(1 / 1.4)">−</button>
        <button class="quiet" aria-label="Nearer" title="Nearer (+)" @click="zoomBy(1.4)">+</button>
        <button class="quiet" title="All of it (0)" @click="fit">all</button>
        <ElDropdown trigger="click" @command="save"><button class="quiet">Export</button><template #dropdown><ElDropdownMenu><ElDropdownItem command="svg">SVG</ElDropdownItem><ElDropdownItem command="png">PNG</ElDropdownItem><ElDropdownItem command="graphml">GraphML</ElDropdownItem><ElDropdownItem command="dot">DOT</ElDropdownItem></ElDropdownMenu></template></ElDropdown>
      </header>
      <p v-if="failure" class="wrong" role="alert">{{ failure }}</p>
      <p v-if="joining" class="joining" role="status">Choose the place to join {{ placeOf.get(joining)?.name }} to, or press Esc.</p>
      <p v-if="drawing" class="joining" role="status" data-test="drawing">
        Choose places one after another (or Shift with the arrow keys): {{ drawing.map((key) => placeOf.get(key)?.name).join(' → ') || 'none yet' }}. <b v-if="drawingSays" class="missing">{{ drawingSays }}</b>
        <button class="act" :disabled="!drawing.length" data-test="take route" @click="endRoute">Make it a route</button> <button class="quiet" @click="drawing = null">Leave it</button>
      </p>
      <p v-if="!view" class="soft waiting">Laying out the map …</p>
      <p v-else-if="!data!.places.length" class="soft waiting">There are no places yet: <RouterLink :to="{ name: 'route', params: $route.params }">add the first one in the Route view</RouterLink>.</p>
      <div v-show="view && data!.places.length" class="canvas">
      <MapFar v-if="isFar && layout" :layout="layout" :places="farPlaces" :ways="farWays" :transform="transform" />
      <svg ref="svg" class="picture" tabindex="0" role="application" aria-label="Places and passages: arrow keys go from place to place" data-test="map" @keydown="onKey" @click="onFarClick">
        <defs><marker id="one-way" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="8" markerHeight="8" orient="auto"><path d="M0 0 L8 4 L0 8 Z" class="arrow" /></marker></defs>
        <g v-if="layout && data" data-zoomed :transform="transform.toString()">
          <text v-for="column in isFar ? [] : layout.columns" :key="`${column.x} ${column.y}`" :x="column.x" :y="column.y" class="column">{{ column.wave === null ? 'never' : `wave ${column.wave}` }}</text>
          <g v-for="way in ways" :key="way.passage.key" v-memo="[way.shape, way.isOpen, way.loses, selection.chosen?.key === way.passage.key]" class="way" :class="{ open: way.isOpen, chosen: selection.chosen?.key === way.passage.key }">
            <path :d="way.path" class="hit" @click="selection.choose('passage', way.passage.key)"><title>{{ way.passage.id }}{{ way.passage.twoWay ? '' : ', one way' }}</title></path>
            <path :d="way.path" class="line" :class="{ oneway: !way.passage.twoWay }" />
            <text v-if="!way.passage.twoWay" :x="way.middle.x" :y="way.middle.y + 20" class="one" :class="{ left: way.isWrapped, bad: way.loses }">one way ▸{{ way.loses ? '!' : '' }}<title>{{ way.loses ? 'main content is lost behind it' : 'it leads one way only' }}</title></text>
          </g>
          <path v-if="witness" :d="witnessPath.map((spot, i) => `${i === 0 ? 'M' : 'L'}${spot.x} ${spot.y}`).join(' ')" class="walked" />
          <path v-if="ring" :d="ring" class="ring" data-test="ring" />
          <line v-if="dragLine" :x1="dragLine.from.x" :y1="dragLine.from.y" :x2="dragLine.to.x" :y2="dragLine.to.y" class="joins" />
          <g v-for="place in shownPlaces" :key="place.key" v-memo="[place, layout.places[place.key], openPlaces, repeats, stops, standingGates, chain, selection.chosen?.key === place.key || chosenGate?.place === place.key]" class="place" :class="{ open: openPlaces.has(place.key), never: (repeats ? place.waves.repeated : place.waves.once) === null, chosen: selection.chosen?.key === place.key, lit: litPlaces.has(place.key), goal: place.goal }" :transform="`translate(${layout.places[place.key]!.x - placeSize.width / 2} ${layout.places[place.key]!.y - placeSize.height / 2})`" :data-test="`place ${place.id}`" @mousedown.stop="drag.begin($event, place.key)" @click.stop="drag.endsDrag() || choosePlace(place.key)">
            <rect :width="placeSize.width" :height="placeSize.height" rx="5" />
            <rect v-if="place.goal" x="3" y="3" :width="placeSize.width - 6" :height="placeSize.height - 6" rx="3" class="inner" />
            <text x="10" y="17" class="name">{{ place.name.length > 22 ? `${place.name.slice(0, 21)}…` : place.name }}</text>
            <text x="10" y="33" class="small" :class="{ bad: place.isDeadEnd }">{{ place.isDeadEnd ? 'dead end' : place.earns[0] ? `0–${numberText(place.earns[0].most)} ${place.earns[0].tally}`.slice(0, 20) : place.goal ? 'goal' : '' }}</text>
            <path v-if="layout.places[place.key]!.isPinned" :d="`M${placeSize.width - 12} -5 v8 M${placeSize.width - 16} -5 h8`" class="pin"><title>put here by hand; b puts it back</title></path>
            <text v-if="stops.get(place.key)" :x="placeSize.width - 8" y="33" class="stop">{{ stops.get(place.key)!.join(', ') }}</text>
            <g v-for="(gate, i) in (standingGates.get(place.key) ?? []).slice(0, 7)" :key="gate.key" class="gate" :class="{ lit: chain.has(gate.key), chosen: selection.chosen?.key === gate.key }" :transform="`translate(${14 + i * 15} ${placeSize.height + 2})`" @click.stop="selection.choose('gate', gate.key)"><rect x="-7" y="-7" width="14" height="15" class="hold" /><VerdictMark :verdict="standingMarks[standing(gate)].verdict" :tall="8" /><title>{{ gate.name }}: {{ standingMarks[standing(gate)].word }}; asks for {{ gate.asks || 'nothing' }}</title></g>
            <title>{{ place.name }}</title>
          </g>
          <g v-for="way in ways.filter((one) => one.gates.length)" :key="`pegs ${way.passage.key}`" v-memo="[way.shape, openPlaces, repeats, chain, selection.chosen?.key]" :transform="`translate(${way.middle.x} ${way.middle.y})`">
            <g v-for="(gate, i) in way.gates" :key="gate.key" class="gate" :class="{ lit: chain.has(gate.key), chosen: selection.chosen?.key === gate.key }" :transform="`translate(${(i - (way.gates.length - 1) / 2) * 15} -4)`" :data-test="`gate ${gate.id}`" @click.stop="selection.choose('gate', gate.key)"><circle r="8" class="hold paper" /><VerdictMark :verdict="standingMarks[standing(gate)].verdict" :tall="11" /><title>{{ gate.name }}: {{ standingMarks[standing(gate)].word }}; asks for {{ gate.asks || 'nothing' }}</title></g>
          </g>
          <template v-if="witness">
            <g v-for="(spot, i) in witnessPath" :key="i" :transform="`translate(${spot.x + placeSize.width / 2 - 4} ${spot.y - placeSize.height / 2 + 2})`" class="numbered" :class="{ now: i === witnessAt }"><circle r="10" /><text y="4">{{ i + 1 }}</text></g>
          </template>
        </g>
      </svg>
      </div>
      <footer v-if="witness" class="told" data-test="walked">
        <b>{{ witnessAt + 1 }} of {{ witness.parts.length }}: {{ witness.parts[witnessAt]!.place }}</b> {{ witness.parts[witnessAt]!.deeds.join('; ') || 'goes there' }}
        <b v-if="witnessAt === witness.parts.length - 1 && witness.missing" class="missing">Then: {{ witness.missing }}.</b>
        <span class="space" /><button class="quiet" :disabled="witnessAt === 0" @click="followTo(witnessAt - 1)">back</button><button class="quiet" :disabled="witnessAt === witness.parts.length - 1" data-test="walk on" @click="followTo(witnessAt + 1)">on</button><button class="quiet" aria-label="Close" @click="witnessOf = null">×</button>
        <LockoutFixes v-if="witnessAt === witness.parts.length - 1" :kind="witnessOf!" />
      </footer>
      <footer v-else-if="chosenGate && chosenGate.waves.repeated === null" class="told" data-test="waits"><b>{{ chosenGate.name }} never opens:</b> {{ chosenGate.why.join('; ') }}.<template v-if="chosenGate.ring"> In a ring: {{ [...chosenGate.ring, chosenGate.ring[0]!].map((key) => gateOf.get(key)!.name).join(' → ') }}. <template v-if="chosenGate.breaks.length">It breaks where one asks for less: <button v-for="key in chosenGate.breaks" :key="key" class="link" @click="selection.choose('gate', key)">{{ gateOf.get(key)!.name }} <span class="soft mono">{{ gateOf.get(key)!.asks }}</span></button></template><template v-else>No one of them alone breaks it.</template></template></footer>
      <footer v-else-if="view" class="told" data-test="held">
        <span><b>Wave {{ wave }}</b> <span class="soft">at the most:</span> {{ shownHeld.join(', ') || 'nothing is held' }}.</span>
        <span v-if="next.length"><b>Next:</b> <button v-for="gate in next.slice(0, 8)" :key="gate.key" class="link" :title="gate.asks" @click="selection.choose('gate', gate.key)">{{ gate.name }} <span class="soft mono">{{ gate.asks }}</span></button><template v-if="next.length > 8"> and {{ next.length - 8 }} more</template></span>
        <span v-else class="soft">No further gate opens{{ repeats ? '' : ' without repeats' }}.</span>
      </footer>
      <ChosenPlace v-if="view && !witness && chosenKind === 'place'" :records="plan.records" :data="data!" :place-key="chosenKey" :lossy="lossy" />
      <p class="legend soft"><span v-for="(mark, id) in standingMarks" :key="id"><svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="mark.verdict" /></svg> {{ mark.word }}</span><span>numbers: stops of the route</span><span v-if="lossy.size">one way ▸!: main content is lost behind it</span></p>
    </section>
    <PlanDock :records="plan.records" />
  </div>
</template>

<style scoped>
.map { display: flex; flex: 1; min-width: 0; }
.main { display: flex; flex: 1; flex-direction: column; min-width: 0; }
header { align-items: center; border-bottom: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; gap: 2px 10px; padding: 5px 12px; }
header .quiet { padding-left: 5px; padding-right: 5px; }
.wave { align-items: center; display: flex; gap: 6px; }
.space { flex: 1; }
.canvas { flex: 1; min-height: 0; position: relative; width: 100%; }
.picture { cursor: grab; height: 100%; inset: 0; position: absolute; width: 100%; }
.joins { stroke: var(--accent); stroke-dasharray: 5 4; stroke-width: 2; }
.pin { fill: none; stroke: var(--accent); stroke-width: 2; }
.bad { fill: var(--short) !important; }
.waiting { flex: 1; padding: 60px; text-align: center; }
.joining, .wrong { background: var(--mark); margin: 0; padding: 5px 12px; }
.wrong { color: var(--short); }
.column { fill: var(--soft); font-size: 11px; text-anchor: middle; }
.way .line { fill: none; stroke: var(--off); stroke-dasharray: 4 4; stroke-width: 1.5; }
.way.open .line { stroke: var(--path); stroke-dasharray: none; stroke-width: 2; }
.way.chosen .line { stroke: var(--accent); stroke-width: 3.5; }
.way .hit { cursor: pointer; fill: none; stroke: transparent; stroke-width: 12; }
.one { fill: var(--soft); font-size: 10px; text-anchor: middle; }
.one.bad { font-weight: 700; }
.one.left { text-anchor: end; transform: translateX(16px); }
.arrow { fill: var(--path); }
.place { cursor: pointer; }
.place > rect { fill: var(--panel); stroke: var(--off); stroke-dasharray: 4 3; }
.place.open > rect { fill: var(--raised); stroke: var(--path); stroke-dasharray: none; stroke-width: 1.5; }
.place > .inner { fill: none !important; }
.place.never > rect { stroke: var(--sealed); }
.place.lit > rect { stroke: var(--short); stroke-width: 2.5; }
.place.chosen > rect:first-child { fill: var(--mark); stroke: var(--accent); stroke-width: 2.5; }
.name { fill: var(--ink); font-size: 12px; font-weight: 600; }
.small { fill: var(--soft); font-size: 10px; }
.stop { fill: var(--accent); font-size: 11px; font-weight: 700; text-anchor: end; }
.gate { cursor: pointer; }
.gate .hold { fill: transparent; stroke: none; stroke-dasharray: none; }
.gate .hold.paper { fill: var(--paper); }
.gate.lit .hold, .gate.chosen .hold { fill: var(--mark); stroke: var(--short); stroke-width: 1.5; }
.ring { fill: none; stroke: var(--short); stroke-dasharray: 7 4; stroke-width: 2.5; }
.walked { fill: none; opacity: 0.7; stroke: var(--depends); stroke-width: 4; }
.numbered circle { fill: var(--depends); }
.numbered.now circle { fill: var(--short); }
.numbered text { fill: var(--paper); font-size: 11px; font-weight: 700; text-anchor: middle; }
.told { align-items: baseline; border-top: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; gap: 2px 14px; max-height: 120px; overflow: auto; padding: 6px 12px; }
.missing { color: var(--short); }
.link { background: none; border: 0; color: var(--accent); cursor: pointer; font-size: 13px; padding: 0 8px 0 0; }
.legend { border-top: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; font-size: 12px; gap: 2px 16px; margin: 0; padding: 3px 12px; }
.legend svg { vertical-align: -2px; }
</style>
