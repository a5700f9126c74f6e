import type { Peg } from '../../../core/view/pegs.ts'

/**
 * The threshold that a peg is dragged to: whole where it was whole and its lane is not too fine for that; levels always are, and never
 * below 0, nor are costs. `low`, `high`: the ends of the lane.
 */
export function draggedTo(at: number, peg: Pick<Peg, 'lane' | 'at' | 'span'>, [low, high]: readonly [number, number]): number {
  const isLevel = peg.lane.startsWith('level ')
  const isFine = !isLevel && (high - low < 4 || !Number.isInteger(peg.at))
  const least = isLevel || peg.span === null ? 0 : Math.min(0, low)
  const tenths = Math.round(Math.max(least, at) * (isFine ? 10 : 1))
  return (isFine ? tenths / 10 : tenths) || 0
}

/** What is held so near to an end of the sheet scrolls it, the nearer the faster: by so much in each picture at most, in pixels. */
const edge = 44
const fastest = 22

/** By how much the sheet is scrolled in the next picture while a row is held at a height of the screen. */
export function paceAt(y: number, { top, bottom }: Pick<DOMRect, 'top' | 'bottom'>): number {
  const [above, below] = [top + edge - y, y - (bottom - edge)]
  const depth = Math.max(above, below)
  return depth <= 0 ? 0 : Math.sign(below - above) * Math.ceil(Math.min(1, depth / edge) * fastest)
}
