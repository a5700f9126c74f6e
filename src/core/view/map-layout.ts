import { Graph, layout } from '@dagrejs/dagre'
import type { MapData } from './map.ts'

export const placeSize = { width: 148, height: 40 }
const columnGap = 64
const rowGap = 26
/** Between two bands of columns, and at the edges. */
const bandGap = 56
const margin = 24
const sideMargin = 64
/** Width over height that a map is laid out for: that of a window beside the dock. */
const aspect = 1.5
const fewestColumns = 5

export interface Spot {
  x: number
  y: number
  band: number
  /** A person has put it there. */
  isPinned?: true
}

export interface MapLayout {
  /** By key of the place: its middle, and the band of columns that it is in. */
  places: Record<string, Spot>
  width: number
  height: number
  /** By column, from the left and band by band: the wave that stands there; null: never reached. */
  columns: { x: number; y: number; wave: number | null }[]
  /** Where each band ends at its foot. */
  bands: { bottom: number }[]
}

/**
 * Places in columns by the wave in which they are first had, those that never are in the last; within a column as few ways cross as
 * can be. A map that would be too long for a window goes on in a further band below, as lines of a text do.
 */
export function layoutMap(data: MapData, repeats: boolean): MapLayout {
  const waveOf = new Map(data.places.map((place) => [place.key, repeats ? place.waves.repeated : place.waves.once]))
  const waves = [...new Set([...waveOf.values()].filter((wave): wave is number => wave !== null))].sort((a, b) => a - b)
  const columnOfWave = new Map(waves.map((wave, column) => [wave, column]))
  const columnOf = (key: string) => columnOfWave.get(waveOf.get(key) ?? NaN) ?? waves.length
  const order = orderInColumns(data, columnOf)
  const perBand = columnsPerBand(order.map(({ length }) => length))
  const places: MapLayout['places'] = {}
  const columns: MapLayout['columns'] = []
  const bands: MapLayout['bands'] = []
  const x = (column: number) => sideMargin + (column % perBand) * (placeSize.width + columnGap) + placeSize.width / 2
  for (let first = 0, top = margin; first < order.length; first += perBand) {
    const own = order.slice(first, first + perBand)
    const height = bandHeight(own.map(({ length }) => length))
    own.forEach((keys, i) => {
      const column = first + i
      columns.push({ x: x(column), y: top - 4, wave: waves[column] ?? null })
      const above = (height - keys.length * (placeSize.height + rowGap)) / 2
      keys.forEach((key, k) => (places[key] = { x: x(column), y: top + above + k * (placeSize.height + rowGap) + placeSize.height / 2 + rowGap / 2, band: bands.length }))
    })
    bands.push({ bottom: top + height })
    top += height + bandGap
  }
  return { places, columns, bands, width: widthOf(Math.min(perBand, order.length)), height: (bands.at(-1)?.bottom ?? 0) + margin }
}

const bandHeight = (counts: readonly number[]) => Math.max(1, ...counts) * (placeSize.height + rowGap)
const widthOf = (columns: number) => columns * (placeSize.width + columnGap) - columnGap + sideMargin * 2

/** So many columns beside each other that the whole has the shape of a window. */
function columnsPerBand(counts: readonly number[]): number {
  let best = { columns: Math.max(1, counts.length), off: Infinity }
  for (let columns = Math.min(fewestColumns, Math.max(1, counts.length)); columns <= counts.length; columns++) {
    let height = 0
    for (let first = 0; first < counts.length; first += columns) height += bandHeight(counts.slice(first, first + columns)) + bandGap
    const off = Math.abs(Math.log(widthOf(columns) / height / aspect))
    if (off < best.off) best = { columns, off }
  }
  return best.columns
}

/** Columns laid out at once: ways that are longer than this bear little on the order, and the layout package goes no deeper. */
const columnsAtOnce = 24

/** The order of places within each column, a stretch of columns after another. */
function orderInColumns(data: MapData, columnOf: (key: string) => number): string[][] {
  const columns: string[][] = []
  for (const { key } of data.places) (columns[columnOf(key)] ??= []).push(key)
  const own = Array.from(columns, (keys) => keys ?? [])
  const ways = data.passages.filter(({ from, to }) => Math.floor(columnOf(from) / columnsAtOnce) === Math.floor(columnOf(to) / columnsAtOnce))
  const ordered: string[][] = []
  for (let first = 0; first < own.length; first += columnsAtOnce) {
    const stretch = own.slice(first, first + columnsAtOnce)
    const inside = new Set(stretch.flat())
    ordered.push(...orderOf(stretch, ways.filter(({ from }) => inside.has(from)), (key) => columnOf(key) - first))
  }
  return ordered
}

/** The layered layout finds the order within each column; which column a place is in is set by its wave. */
function orderOf(columns: readonly string[][], ways: MapData['passages'], columnOf: (key: string) => number): string[][] {
  // Where places stand one behind another there is no order to find.
  if (columns.every(({ length }) => length < 2)) return columns.map((keys) => [...keys])
  const graph = new Graph()
  graph.setGraph({ rankdir: 'LR', nodesep: rowGap, ranksep: columnGap, ranker: 'longest-path' })
  graph.setDefaultEdgeLabel(() => ({}))
  // A row of anchors, one before each column and one behind: a place hangs between two of them.
  const anchor = (column: number) => ` ${column}`
  for (let column = 0; column <= columns.length; column++) {
    graph.setNode(anchor(column), { width: 1, height: 1 })
    if (column > 0) graph.setEdge(anchor(column - 1), anchor(column), { minlen: 2, weight: 0 })
  }
  for (const key of columns.flat()) {
    graph.setNode(key, { ...placeSize })
    graph.setEdge(anchor(columnOf(key)), key, { minlen: 1, weight: 0 })
    graph.setEdge(key, anchor(columnOf(key) + 1), { minlen: 1, weight: 0 })
  }
  for (const { from, to } of ways) {
    const [a, b] = columnOf(from) <= columnOf(to) ? [from, to] : [to, from]
    // Within a column a way bears on no order of columns.
    if (columnOf(a) < columnOf(b)) graph.setEdge(a, b, { minlen: 1, weight: 2 })
  }
  layout(graph)
  const at = (key: string) => (graph.node(key) as { y: number }).y
  return columns.map((keys) => [...keys].sort((a, b) => at(a) - at(b)))
}
