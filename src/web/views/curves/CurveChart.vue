<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { countText, numberText } from '../../../core/view/numbers.ts'
import type { FormTrouble } from '../../../core/view/stat-table.ts'
import { curveChart, type ChartCurve } from '../../draw/curve-scale.ts'

/** XP for each step as bars and in all as lines; under the axis the forms of a character, and its caps as walls. */
const props = defineProps<{
  curves: ChartCurve[]
  log: boolean
  focus: number | null
  forms: { name: string; from: number; to: number }[]
  troubles: FormTrouble[]
  caps: { level: number; label: string }[]
}>()
const emit = defineEmits<{ focus: [level: number] }>()

const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const full = computed(() => Math.max(320, width.value))
const height = 244
const chart = computed(() => curveChart(props.curves, { width: full.value, height }, props.log))
const steps = computed(() => props.curves[0]?.steps ?? [])
const focused = computed(() => steps.value.find((step) => step.from === props.focus) ?? null)
const ribbon = 26
const spans = computed(() => {
  const { x } = chart.value
  const span = (from: number, to: number) => ({ left: x(from), width: Math.max(3, x(to + 1) - x(from)) })
  const end = x.domain()[1]!
  return {
    forms: props.forms.filter(({ from }) => from <= end).map((form, i) => ({ ...form, ...span(form.from, Math.min(form.to, end)), shade: i % 2 })),
    troubles: props.troubles.map((trouble) => ({ ...trouble, ...span(Math.min(trouble.from, end), Math.min(trouble.to, end)) })),
  }
})

/** A wall's name stands over it, and does not run off the chart. */
function nameAt(x: number) {
  const isLast = x > full.value - chart.value.margin.right - 20
  return { x: isLast ? x + 2 : x, 'text-anchor': isLast ? 'end' : 'middle' }
}

function go(by: number): void {
  const all = steps.value
  const at = all.findIndex((step) => step.from === props.focus)
  const next = all[Math.min(Math.max(at + by, 0), all.length - 1)]
  if (next) emit('focus', next.from)
}

function hover(event: PointerEvent): void {
  const at = Math.floor(chart.value.x.invert(event.offsetX))
  if (steps.value.some((step) => step.from === at)) emit('focus', at)
}
</script>

<template>
  <div ref="box" class="chart">
    <p class="read" data-test="curve readout" aria-live="polite">
      <template v-if="focused"><b>{{ focused.from }} → {{ focused.to }}</b>: {{ numberText(focused.step) }} XP, {{ numberText(focused.total) }} in all<template v-if="focused.growth">, × {{ numberText(Math.round(focused.growth * 1000) / 1000) }} over the step before</template></template>
      <span v-else class="soft">{{ countText(steps.length, 'step') }}: hover over one, or go through them with ← and →</span>
    </p>
    <svg
      :width="full" :height="height + (forms.length ? ribbon : 0)" role="slider" tabindex="0" :aria-label="`Steps of ${curves[0]?.name ?? 'the curve'}`" :aria-valuemin="steps[0]?.from ?? 0" :aria-valuemax="steps.at(-1)?.from ?? 0"
      :aria-valuenow="focused?.from ?? steps[0]?.from ?? 0" :aria-valuetext="focused ? `${focused.from} to ${focused.to}: ${focused.step} XP, ${focused.total} in all` : undefined"
      @pointermove="hover" @keydown.left.prevent="go(-1)" @keydown.right.prevent="go(1)" @keydown.home.prevent="go(-1000)" @keydown.end.prevent="go(1000)"
    >
      <g v-for="tick in chart.stepTicks" :key="`s${tick.y}`"><line :x1="chart.margin.left" :x2="full - chart.margin.right" :y1="tick.y" :y2="tick.y" class="gridline" /><text :x="chart.margin.left - 6" :y="tick.y + 4" class="axis end">{{ tick.label }}</text></g>
      <text v-for="tick in chart.totalTicks" :key="`t${tick.y}`" :x="full - chart.margin.right + 6" :y="tick.y + 4" class="axis total">{{ tick.label }}</text>
      <text v-for="tick in chart.levels" :key="`l${tick.level}`" :x="tick.x" :y="chart.foot + 14" class="axis mid">{{ tick.level }}</text>
      <rect v-for="bar in chart.bars" :key="bar.step.from" :x="bar.left" :y="bar.top" :width="bar.width" :height="Math.max(0, chart.foot - bar.top)" class="bar" :class="{ on: bar.step.from === focus }" />
      <path v-for="(one, i) in chart.lines" :key="one.key" :d="one.path" class="total" :class="`line${i % 4}`"><title>{{ one.name }}, XP in all</title></path>
      <circle v-for="dot in chart.dots.filter((one) => one.step.from === focus)" :key="dot.x" :cx="dot.x" :cy="dot.y" r="4" class="dot" />
      <g v-for="cap in caps.filter((one) => one.level <= chart.x.domain()[1]!)" :key="cap.level"><line :x1="chart.x(cap.level)" :x2="chart.x(cap.level)" :y1="chart.margin.top" :y2="chart.foot" class="wall" /><text v-bind="nameAt(chart.x(cap.level))" :y="chart.margin.top - 4" class="axis wallname">cap {{ cap.level }}</text><title>{{ cap.label }}</title></g>
      <g v-if="forms.length" :transform="`translate(0 ${height})`">
        <g v-for="form in spans.forms" :key="`${form.name} ${form.from}`"><rect :x="form.left" y="2" :width="form.width - 1" height="18" class="form" :class="{ odd: form.shade }" /><text :x="form.left + 5" y="15" class="axis name">{{ form.width > form.name.length * 6.2 + 8 ? form.name : '' }}</text><title>{{ form.name }}: level {{ form.from }} to {{ form.to }}</title></g>
        <rect v-for="(trouble, i) in spans.troubles" :key="i" :x="trouble.left" y="2" :width="trouble.width" height="18" class="trouble" :class="trouble.kind"><title>{{ trouble.kind }}: level {{ trouble.from }} to {{ trouble.to }}</title></rect>
      </g>
      <text :x="4" y="11" class="axis">XP a step</text>
      <text :x="full - 4" y="11" class="axis end">in all</text>
    </svg>
  </div>
</template>

<style scoped>
.read { margin: 0; min-height: 20px; }
svg { display: block; }
.gridline { stroke: var(--line); }
.axis { fill: var(--soft); font-size: 11px; }
.axis.end { text-anchor: end; }
.axis.mid { fill: var(--ink); text-anchor: middle; }
.axis.name { fill: var(--ink); }
.bar { fill: var(--band); }
.bar.on { fill: var(--path); }
path.total { fill: none; stroke-width: 2; }
.line0 { stroke: var(--accent); }
.line1 { stroke: var(--depends); stroke-dasharray: 6 3; }
.line2 { stroke: var(--short); stroke-dasharray: 2 3; }
.line3 { stroke: var(--sealed); stroke-dasharray: 8 3 2 3; }
.dot { fill: var(--accent); }
.wall { stroke: var(--wall); stroke-width: 2; }
.wallname { fill: var(--wall); paint-order: stroke; stroke: var(--paper); stroke-width: 3px; }
.form { fill: color-mix(in srgb, var(--accent) 22%, var(--paper)); }
.form.odd { fill: color-mix(in srgb, var(--accent) 10%, var(--paper)); }
.trouble { fill: none; stroke: var(--short); stroke-dasharray: 3 2; stroke-width: 1.5; }
.trouble.overlap { fill: url(#lost-form); stroke-dasharray: none; }
</style>
