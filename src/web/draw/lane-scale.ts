import { scaleLinear, type ScaleLinear } from 'd3-scale'
import type { LaneId, ShownLine } from '../../core/view/lanes.ts'
import type { LevelTick } from '../../core/view/level-axis.ts'
import { sameFields } from '../stable.ts'
import { numberText } from '../../core/view/numbers.ts'

export interface LaneTick {
  x: number
  label: string
  /** Under the label: the XP of a level. */
  under: string
}

/** A lane as it is drawn: where it lies, how amounts become pixels, its axis. */
export interface DrawnLane extends LaneInput {
  input: LaneInput
  scale: ScaleLinear<number, number>
  ticks: LaneTick[]
  /** Whether only a part of the scale is shown. */
  zoomed: boolean
}

/** The middle walk of another kind of player. */
export interface OtherLine {
  name: string
  line: ShownLine
}

const inset = 14
/** Room that one digit takes, and one tick's label in a lane of levels. */
const letterWidth = 8

/** Room that one digit under a label takes, and between two such numbers. */
const underWidth = 5.6
const underGap = 8

const labelRoom = { wide: 34, narrow: 26 }

export interface LaneInput {
  id: LaneId
  name: string
  /** null: nothing is known of it yet. */
  line: ShownLine | null
  /** All that it has to show. */
  low: number
  high: number
  left: number
  width: number
  wide: boolean
  levels: readonly LevelTick[] | null
  others: OtherLine[]
  zoom: { times: number; at: number } | null
}

/** A lane as it is drawn; `before` again where it would be drawn from the same. */
export function drawnLane(input: LaneInput, before?: DrawnLane): DrawnLane {
  if (before && isSame(before.input, input)) return before
  const { low, high, left, width, wide, levels, zoom } = input
  const domain: [number, number] = zoom ? zoomedDomain([low, high], zoom) : [low, high]
  const scale = scaleLinear(domain, [left + inset, left + width - inset])
  const ticks = levels ? levelLaneTicks(scale, levels, wide, width) : plainTicks(scale, wide)
  return { ...input, input, scale, ticks, zoomed: zoom !== null }
}

function isSame({ others: a, ...one }: LaneInput, { others: b, ...other }: LaneInput): boolean {
  return sameFields(one, other) && a.length === b.length && a.every((line, i) => sameFields(line, b[i]!))
}

/** The part of a scale that is shown: as wide as the zoom says, and never beyond the whole. */
export function zoomedDomain([low, high]: [number, number], { times, at }: { times: number; at: number }): [number, number] {
  const room = (high - low) / Math.max(1, times)
  const from = Math.min(Math.max(at - room / 2, low), high - room)
  return [from, from + room]
}

function levelLaneTicks(scale: ScaleLinear<number, number>, levels: readonly LevelTick[], wide: boolean, width: number): LaneTick[] {
  const [low, high] = scale.domain() as [number, number]
  const shown = levels.filter(({ level }) => level >= low && level <= high)
  const longest = wide ? numberText(Math.round(shown.at(-1)?.xp ?? 0)).length * underWidth + underGap : 0
  const room = Math.max(wide ? labelRoom.wide : labelRoom.narrow, longest)
  const every = Math.max(1, Math.ceil(shown.length / Math.max(2, Math.floor((width - inset) / room))))
  return shown.filter((_, i) => i % every === 0).map(({ level, xp }) => ({ x: scale(level), label: String(level), under: wide ? numberText(Math.round(xp)) : '' }))
}

/** Ticks with room for their labels, from the first on; finer ones where else there would be no second. */
function plainTicks(scale: ScaleLinear<number, number>, wide: boolean): LaneTick[] {
  const few = wide ? 8 : 2
  const shown = [few, few * 2, few * 4].map((count) => ticksWithRoom(scale, count))
  return shown.find((ticks) => ticks.length > 1) ?? shown[0]!
}

function ticksWithRoom(scale: ScaleLinear<number, number>, count: number): LaneTick[] {
  const shown: LaneTick[] = []
  for (const value of scale.ticks(count)) {
    const tick = { x: scale(value), label: numberText(value), under: '' }
    const before = shown.at(-1)
    if (!before || (tick.x - before.x >= (letterWidth * (before.label.length + tick.label.length)) / 2 && fits(scale, tick))) shown.push(tick)
  }
  return shown
}

/** A label that stays within its lane. */
function fits(scale: ScaleLinear<number, number>, { x, label }: LaneTick): boolean {
  return x + (letterWidth * label.length) / 2 <= (scale.range()[1] ?? 0) + inset
}
