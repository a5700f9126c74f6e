import type { LanePoint } from '../../core/view/lanes.ts'
import { sameEach, sameFields } from '../stable.ts'
import type { DrawnLane } from './lane-scale.ts'

/** What all lanes draw in one row, as SVG paths: one of each kind, for rows are made anew by the dozen while one scrolls. */
export interface RowPaths {
  /** The areas between the bounds, and between 5 and 95 %. */
  bounds: string
  band: string
  /** Where a cap stands. */
  walls: string
  /** The middle walk, in narrow lanes and in the wide one. */
  narrow: string
  wide: string
  /** Middle walks of other kinds of player. */
  others: string
  /** XP lost at a cap, from `x` on. */
  lost: { x: number; xp: number }[]
}

/** Whether the same is drawn: then nothing of a row is drawn anew. */
export function samePaths({ lost: a, ...one }: RowPaths, { lost: b, ...other }: RowPaths): boolean {
  return sameFields(one, other) && sameEach(a, b)
}

/** Paths in a row so many pixels high; nothing of lanes to which the route does not come here. */
export function rowPaths(lanes: readonly DrawnLane[], row: number, height: number): RowPaths {
  const paths: RowPaths = { bounds: '', band: '', walls: '', narrow: '', wide: '', others: '', lost: [] }
  for (const { scale, line, others, wide } of lanes) {
    const x = (value: number) => pixels(scale(value))
    for (const { line: other } of others) {
      const point = other.at(row)
      if (point) paths.others += stepPath(x(point.from), x(point.to), height)
    }
    const point = line?.at(row)
    if (!point) continue
    const before = line!.at(row - 1) ?? point
    paths.bounds += areaPath(x(before.least), x(before.most), x(point.least), x(point.most), height)
    paths.band += areaPath(x(before.low), x(before.high), x(point.low), x(point.high), height)
    paths[wide ? 'wide' : 'narrow'] += stepPath(x(point.from), x(point.to), height)
    const wall = wallOf(point, scale.domain()[1]!)
    if (wall === null) continue
    paths.walls += `M${x(wall)} 0V${height}`
    if (point.lost > 0) paths.lost.push({ x: x(wall), xp: point.lost })
  }
  return paths
}

/** Hundredths are finer than can be seen: what differs by less is not drawn again. */
function pixels(x: number): number {
  return Math.round(x * 100) / 100
}

/** Down the row, over to where it is left, and on down. */
function stepPath(from: number, to: number, height: number): string {
  return from === to ? `M${from} 0V${height}` : `M${from} 0V${height * 0.25}L${to} ${height * 0.75}V${height}`
}

/** Nothing where it has no width. */
function areaPath(lowAbove: number, highAbove: number, low: number, high: number, height: number): string {
  return lowAbove === highAbove && low === high ? '' : `M${lowAbove} 0H${highAbove}L${high} ${height}H${low}Z`
}

/** A wall beyond all that the lane shows is not there. */
function wallOf({ limit }: LanePoint, most: number): number | null {
  return limit !== null && limit <= most ? limit : null
}
