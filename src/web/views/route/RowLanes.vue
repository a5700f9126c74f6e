<script setup lang="ts">
import { computed, inject } from 'vue'
import type { Verdict } from '../../../core/check/result.ts'
import type { Peg } from '../../../core/view/pegs.ts'
import { numberText } from '../../../core/view/numbers.ts'
import VerdictMark from '../../components/VerdictMark.vue'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import { rowPaths, samePaths } from '../../draw/row-paths.ts'
import type { ThreadRun } from '../../draw/thread-runs.ts'
import { stable } from '../../stable.ts'
import { lanesBeside } from './lanes-beside.ts'

/** What happens to every amount in one row: the line with its band, the cap's wall, pegs, threads, XP lost. */
const props = defineProps<{
  index: number
  height: number
  width: number
  pegs: readonly Peg[]
  verdict: Verdict | undefined
  /** Those that begin, pass or end here. */
  threads: readonly ThreadRun[]
  /** Whether this is a place's row: names of other kinds of player stand beside their lines there. */
  named: boolean
  /** A peg that is being dragged stands elsewhere. */
  dragged: { index: number; at: number } | undefined
}>()
defineEmits<{ choose: []; grab: [event: PointerEvent, peg: Peg, lane: DrawnLane] }>()

const lanesAt = inject(lanesBeside)!
const lanes = computed(() => lanesAt(props.index))
const middle = computed(() => props.height / 2)
const paths = stable(() => rowPaths(lanes.value, props.index, props.height), samePaths)

interface Label {
  at: number
  names: string[]
}
const noLabels: readonly Label[] = []
const nearness = 46
/** In the wide lane the names of other kinds of player; names of lines that lie together stand together. */
const labels = computed(() => {
  const others = props.named ? wideOthers() : []
  return others.length ? together(others) : noLabels
})
function wideOthers(): { name: string; at: number }[] {
  const wide = lanes.value.find((lane) => lane.wide)
  return (wide?.others ?? []).flatMap(({ name, line }) => {
    const point = line.at(props.index)
    return point ? [{ name, at: wide!.scale(point.to) }] : []
  })
}
function together(others: { name: string; at: number }[]): readonly Label[] {
  const groups: Label[] = []
  for (const { name, at } of others.sort((a, b) => a.at - b.at)) {
    const last = groups.at(-1)
    if (last && at - last.at < nearness) last.names.push(name)
    else groups.push({ at, names: [name] })
  }
  return groups
}

interface DrawnPeg {
  peg: Peg
  x: number
  to: number
  lane: DrawnLane
  has: number | null
}
const noPegs: readonly DrawnPeg[] = []
const pegs = computed(() => (props.pegs.length ? lanes.value.flatMap(pegsIn) : noPegs))
function pegsIn(lane: DrawnLane): DrawnPeg[] {
  return props.pegs.filter((peg) => peg.lane === lane.id).map((peg) => {
    const point = lane.line?.at(props.index)
    const x = lane.scale(props.dragged?.index === peg.index ? props.dragged.at : peg.at)
    return { peg, x, to: point ? lane.scale(point.to) : x, lane, has: point?.to ?? null }
  })
}

/** All threads as one path, and the knots at which some end. */
const endsHere = ({ to, reached }: ThreadRun) => to === props.index && reached
const threadPath = computed(() => props.threads.map((run) => `M${run.x} ${run.row === props.index ? middle.value : 0} V${endsHere(run) ? middle.value : props.height}`).join(' '))
const knots = computed(() => props.threads.filter(endsHere))
</script>

<template>
  <svg :width="width" :height="height" class="lanes" aria-hidden="true" @mousedown="$emit('choose')">
    <path v-if="paths.bounds" :d="paths.bounds" class="bounds" />
    <path v-if="paths.band" :d="paths.band" class="band" />
    <rect v-for="{ x, xp } in paths.lost" :key="`lost ${x}`" :x="x" y="2" width="16" :height="height - 4" fill="url(#lost)"><title>{{ numberText(xp) }} XP lost at the cap</title></rect>
    <path v-if="paths.walls" :d="paths.walls" class="wall" />
    <path v-if="paths.narrow" :d="paths.narrow" class="path" />
    <path v-if="paths.wide" :d="paths.wide" class="path wide" />
    <path v-if="paths.others" :d="paths.others" class="other" />
    <text v-for="label in labels" :key="label.at" :x="label.at + 5" :y="height - 8" class="label">{{ label.names.join(', ') }}</text>
    <path v-if="threadPath" :d="threadPath" class="thread" />
    <circle v-for="{ x } in knots" :key="`knot ${x}`" :cx="x" :cy="middle" r="2.5" class="knot" />
    <g v-for="({ peg, x, to, lane, has }, i) in pegs" :key="`peg ${i}`" :class="`verdict-${verdict ?? 'off_route'}`">
      <title>{{ peg.text }} (drag to change it){{ has === null ? '' : `: the line stands at ${numberText(Math.floor(has * 100) / 100)} here` }}</title>
      <line v-if="lane.wide" :x1="x" :y1="height - 5" :x2="to" :y2="height - 5" class="slack" />
      <VerdictMark :verdict="verdict" :x="x" :y="6" :tall="height - 8" />
      <rect class="hold" :x="x - 6" y="0" width="12" :height="height" @pointerdown="$emit('grab', $event, peg, lane)" />
    </g>
  </svg>
</template>

<style scoped>
.lanes { display: block; overflow: hidden; }
.bounds { fill: var(--bounds); }
/* Opacity of a whole element would make a layer of each. */
.band { fill: var(--band); fill-opacity: 0.75; }
.path { fill: none; stroke: var(--path); stroke-width: 1.5; }
.path.wide { stroke-width: 2; }
.wall { stroke: var(--wall); stroke-width: 2; }
.other { fill: none; stroke-opacity: 0.75; stroke: var(--path); stroke-dasharray: 5 2; stroke-width: 1; }
.label { fill: var(--soft); font-size: 10px; paint-order: stroke; stroke: var(--panel); stroke-width: 3px; }
.hold { cursor: ew-resize; fill: transparent; touch-action: none; }
.thread { fill: none; stroke: var(--short); stroke-dasharray: 1.5 3; stroke-width: 1.5; }
.knot { fill: var(--short); }
.slack { stroke: currentColor; stroke-opacity: 0.45; stroke-width: 3; }
</style>
