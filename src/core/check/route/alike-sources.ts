import { KnownByIndex } from '../../plan/known-by-index.ts'
import { remembered } from '../../plan/remembered.ts'
import type { Game, GameSource } from '../../rules/game.ts'

const doingsKnown = new Map<string, number>()

/** A number for all that one unit asks for and does: the same for sources that are alike in it. */
const doings = new KnownByIndex((source: GameSource) => remembered(doingsKnown, doingOf(source), () => doingsKnown.size))

function doingOf({ requires, takes, yields, caps }: GameSource): string {
  let doing = ''
  for (const { tally, amount } of takes) doing += `${tally}-${amount},`
  for (const { tally, min, max } of yields) doing += `${tally}+${min}:${max},`
  for (const { character, level } of caps) doing += `${character}<${level},`
  return `${doing};${requires.text}`
}

/** What sources are looked through for, for every gate anew. */
export interface Sources {
  /** Those that are not in error, in the order in which they stand. */
  sound: Int32Array
  /** By source. */
  place: Int32Array
  doing: Int32Array
  /** One more than the highest number of those. */
  doings: number
}

const sourcesKnown = new WeakMap<Game, Sources>()

export function sourcesOf(game: Game): Sources {
  return remembered(sourcesKnown, game, () => {
    const doing = Int32Array.from(game.sources, (source, s) => doings.of(s, source))
    return {
      sound: Int32Array.from(game.places.flatMap(({ items }) => Array.from(items).filter((item) => item >= 0 && !game.sources[item]!.error))),
      place: Int32Array.from(game.sources, ({ place }) => place),
      doing,
      doings: doing.reduce((most, one) => Math.max(most, one), -1) + 1,
    }
  })
}

/** Sources of which it makes no difference whose unit is taken. */
export interface Kind {
  sources: readonly number[]
  /** Units left of each, and of all together. */
  left: readonly number[]
  units: number
  /** Which of them gives without end; −1: none. */
  endless: number
  /** Whether the units taken of it, which is one, are asked for. */
  isCounted: boolean
}

/** Sources by kind, for who stands at a place: there nothing is lost on the way. `counted`: those whose units are asked for; `left`: how many are. */
export function kindsOf(game: Game, sources: readonly number[], place: number, counted: ReadonlySet<number>, leftOf: (s: number) => number): Kind[] {
  const { place: placeOf, doing } = sourcesOf(game)
  const alike = new Map<number | string, number[]>()
  for (const s of sources) remembered(alike, counted.has(s) ? `own ${s}` : doing[s]! * 2 + (placeOf[s] === place ? 1 : 0), () => []).push(s)
  return [...alike.values()].map((sources): Kind => {
    const left = sources.map(leftOf)
    const endless = sources.findIndex((s) => game.sources[s]!.respawns)
    return { sources, left, endless, units: left.reduce((sum, units) => sum + units, 0), isCounted: counted.has(sources[0]!) }
  })
}

/** The source of the unit that comes after so many of a kind; null: there is none. */
export function sourceOf({ sources, left, endless }: Pick<Kind, 'sources' | 'left' | 'endless'>, taken: number): number | null {
  let before = taken
  for (let i = 0; i < sources.length; i++) {
    if (before < left[i]!) return sources[i]!
    before -= left[i]!
  }
  return endless < 0 ? null : sources[endless]!
}
