import { sameList } from '../../plan/same-list.ts'
import type { Game } from '../../rules/game.ts'
import type { Touched } from '../../rules/recompile.ts'
import { IndexSet } from './index-set.ts'

/** A part of the plan that nothing outside it bears on: it can be walked alone. */
export interface Portion {
  tallies: Set<number>
  characters: Set<number>
  sources: IndexSet
  /** Gates whose opening bears on the portion, beside those it is walked for. */
  gates: IndexSet
  /** Sources of which it is asked how many units were taken. */
  counted: Set<number>
  /** Gates of which it is asked whether they are open. */
  asked: Set<number>
  targets: Targets
  /** Portions that are walked as this one where not too many branches come of it, and else apart. */
  parts?: readonly Portion[]
  /** The last stop up to which it is walked; absent: to the end of the route. */
  until?: number
}

/** What a portion is walked for. */
export interface Targets {
  gates: Set<number>
  tallies: Set<number>
  characters: Set<number>
}

/** The last that was made, and of how many of each: most edits leave the numbers as they are, and what is known of it serves the next game, too. */
let lastWhole: { counts: readonly number[]; portion: Portion } | null = null

/** The whole plan as one portion. */
export function wholePortion(game: Game): Portion {
  const counts = [game.tallies, game.characters, game.sources, game.gates].map(({ length }) => length)
  if (!lastWhole || !sameList(lastWhole.counts, counts)) lastWhole = { counts, portion: madeWhole(game) }
  return lastWhole.portion
}

function madeWhole(game: Game): Portion {
  const all = (list: readonly unknown[]) => new Set(list.keys())
  const [gates, tallies, characters] = [all(game.gates), all(game.tallies), all(game.characters)]
  const [sources, opening] = [IndexSet.below(game.sources.length), IndexSet.below(game.gates.length)]
  return { tallies, characters, sources, gates: opening, counted: all(game.sources), asked: gates, targets: { gates, tallies, characters } }
}

/** Portions gathered in one. While that is a single one it shares all that is in it: what is known of that serves it, too. */
export class Gathering {
  readonly all = emptyPortion()
  private single: Portion | null = null
  private isOwn = false

  add(portion: Portion): Portion {
    if (this.single === null) this.take(portion)
    else if (this.single !== portion) {
      if (!this.isOwn) this.own()
      unite(this.all, portion)
    }
    return this.all
  }

  private take(portion: Portion): void {
    this.single = portion
    for (const part of few) this.all[part] = portion[part]
    for (const part of many) this.all[part] = portion[part]
  }

  private own(): void {
    this.isOwn = true
    for (const part of few) this.all[part] = new Set(this.all[part])
    for (const part of many) this.all[part] = this.all[part].copy()
  }
}

function addTargets({ targets }: Portion, from: Portion): void {
  for (const kind of ['gates', 'tallies', 'characters'] as const) for (const i of from.targets[kind]) targets[kind].add(i)
}

/** Whether all that bears on one portion bears on another too. */
export function includes(all: Portion, part: Portion): boolean {
  return (['tallies', 'characters'] as const).every((kind) => [...part[kind]].every((i) => all[kind].has(i))) && many.every((kind) => all[kind].includes(part[kind]))
}

/** Whether what single items do can alter a portion. */
export function touches(portion: Portion, { sources, gates }: Touched): boolean {
  return [...sources].some((s) => portion.sources.has(s)) || [...gates].some((g) => portion.gates.has(g) || portion.targets.gates.has(g))
}

/** A portion walked for some of its targets only, up to a stop. */
export function narrowed(portion: Portion, { until, ...targets }: Targets & { until: number }): Portion {
  const both = (kind: keyof Targets) => new Set([...portion.targets[kind]].filter((i) => targets[kind].has(i)))
  return { ...portion, targets: { gates: both('gates'), tallies: both('tallies'), characters: both('characters') }, until }
}

/** Whether a portion is walked for nothing. */
export function hasNoTargets({ targets }: Portion): boolean {
  return Object.values(targets).every(({ size }) => size === 0)
}

/** All that several portions are walked for. */
export function targetsOf(portions: readonly Portion[]): Targets {
  const all = emptyPortion()
  for (const portion of portions) addTargets(all, portion)
  return all.targets
}

const unions = new WeakMap<Portion, { portions: readonly Portion[]; all: Portion }>()

/** The same as `united`, and the very same after an edit that bears on the same portions: what is known of it serves the next walk, too. */
export function unitedAgain(portions: readonly Portion[]): Portion {
  const [first] = portions
  const known = first && unions.get(first)
  if (known && sameList(known.portions, portions)) return known.all
  const all = united(portions)
  if (first) unions.set(first, { portions, all })
  return all
}

/** Several portions as one, walked for all that each is. */
export function united(portions: readonly Portion[]): Portion {
  const all = emptyPortion()
  for (const portion of portions) {
    unite(all, portion)
    addTargets(all, portion)
  }
  return all
}

const few = ['tallies', 'characters', 'counted', 'asked'] as const
const many = ['sources', 'gates'] as const

export function emptyPortion(): Portion {
  const none = () => new Set<number>()
  return { tallies: none(), characters: none(), sources: new IndexSet(), gates: new IndexSet(), counted: none(), asked: none(), targets: { gates: none(), tallies: none(), characters: none() } }
}

function unite(into: Portion, portion: Portion): void {
  for (const part of few) for (const i of portion[part]) into[part].add(i)
  for (const part of many) into[part].unite(portion[part])
}
