import type { MapLayout, Spot } from './map-layout.ts'
import { placeSize } from './map-layout.ts'

/** By key of the place: where a person has put it. */
export type Pins = Readonly<Record<string, { x: number; y: number }>>

/** A layout with some places where a person has put them. It is as wide and high as it takes to hold them. */
export function withPins(layout: MapLayout, pins: Pins): MapLayout {
  const moved = Object.entries(pins).filter(([key]) => layout.places[key])
  if (moved.length === 0) return layout
  const places = { ...layout.places }
  for (const [key, { x, y }] of moved) places[key] = { ...places[key]!, x, y, isPinned: true }
  const edge = (of: 'x' | 'y', half: number) => Math.max(...moved.map(([, pin]) => pin[of] + half))
  return { ...layout, places, width: Math.max(layout.width, edge('x', placeSize.width)), height: Math.max(layout.height, edge('y', placeSize.height * 2)) }
}

export interface Way {
  path: string
  /** Where its gates stand. */
  middle: { x: number; y: number }
  /** It goes from one band of columns to another, by the lane between them. */
  isWrapped: boolean
}

/** A way between two places, a little bowed where it skips columns. */
export function wayBetween(a: Spot, b: Spot, layout: MapLayout): Way {
  const isWrapped = a.band !== b.band && !a.isPinned && !b.isPinned
  if (isWrapped) return wrapped(a, b, layout)
  const middle = { x: (a.x + b.x) / 2 + (a.x === b.x ? 44 : 0), y: (a.y + b.y) / 2 }
  if (a.x === b.x) {
    const side = Math.abs(a.y - b.y) > placeSize.height * 2 ? 26 : 0
    return { path: `M${a.x} ${a.y} Q${a.x + side + placeSize.width / 2} ${middle.y} ${b.x} ${b.y}`, middle, isWrapped }
  }
  const dx = (b.x - a.x) / 2
  return { path: `M${a.x} ${a.y} C${a.x + dx} ${a.y} ${b.x - dx} ${b.y} ${b.x} ${b.y}`, middle, isWrapped }
}

function wrapped(a: Spot, b: Spot, layout: MapLayout): Way {
  const [up, down] = a.band < b.band ? [a, b] : [b, a]
  const lane = layout.bands[up.band]!.bottom + 14
  const out = up.x + placeSize.width / 2 + 18
  const into = down.x - placeSize.width / 2 - 40
  return { path: `M${up.x} ${up.y} H${out} V${lane} H${into} V${down.y} H${down.x}`, middle: { x: down.x - placeSize.width / 2 - 20, y: down.y }, isWrapped: true }
}

/** A ring through places, drawn as one; through one place alone, a loop above it. */
export function ringThrough(spots: readonly Spot[]): string | null {
  const [first] = spots
  if (!first) return null
  if (spots.length === 1) return `M${first.x - 30} ${first.y - 20} C${first.x - 60} ${first.y - 90} ${first.x + 60} ${first.y - 90} ${first.x + 30} ${first.y - 20}`
  return [...spots, first].map((spot, i) => {
    if (i === 0) return `M${spot.x} ${spot.y}`
    const before = spots[i - 1]!
    // Bowed, so that the way back is not drawn over the way there.
    const bow = { x: (before.x + spot.x) / 2 + (spot.y - before.y) * 0.25, y: (before.y + spot.y) / 2 - (spot.x - before.x) * 0.25 - 24 }
    return `Q${bow.x} ${bow.y} ${spot.x} ${spot.y}`
  }).join(' ')
}
