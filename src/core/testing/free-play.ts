/**
 * Free play by plain search (docs/checks.md 3): every move from every state, with none of the reductions of the search that it is
 * held against, but that amounts above a bound of the test's own are taken for alike. What is left to chance falls in every way.
 */
import { canOpen, canTake, enter, gatesOnWay, isOpen, open, standsAt, take } from '../rules/engine.ts'
import { everyOutcome } from '../check/chance.ts'
import { plainPlay, type Play } from '../rules/gain.ts'
import type { Game } from '../rules/game.ts'
import { cloneState, newState, type State } from '../rules/state.ts'

interface Bounds {
  /** Amounts, in units, and levels' XP that are enough for anything in the plan. */
  tally: number
  xp: number
  /** States that are looked at, at most. */
  states: number
}

export interface FreePlay {
  canBeWon: boolean
  stuck: boolean
  forcedGrind: boolean
}

export function startOf(game: Game): State {
  const state = newState(game)
  enter(game, state, game.start, plainPlay)
  return state
}

/** What free play can run into; null where there are too many states. */
export function playFreely(game: Game, bounds: Bounds): FreePlay | null {
  const graph = explored(game, startOf(game), bounds)
  if (!graph) return null
  const [wins, winsAtOnce] = [winning(graph, true), winning(graph, false)]
  const withoutRepeats = reachable(graph)
  return {
    canBeWon: wins[0]!,
    stuck: wins.includes(false),
    forcedGrind: winsAtOnce[0]! && wins.some((can, i) => withoutRepeats[i] && can && !winsAtOnce[i]),
  }
}

/** Whether the goal can be reached from a state; null where there are too many states. */
export function canWin(game: Game, from: State, repeats: boolean, bounds: Bounds): boolean | null {
  const graph = explored(game, from, bounds)
  return graph && winning(graph, repeats)[0]!
}

/** Everything that some play opens, takes or enters, by index; null where there are too many states. */
export function everHad(game: Game, bounds: Bounds): Record<'gates' | 'places' | 'sources', boolean[]> | null {
  const graph = explored(game, startOf(game), bounds)
  if (!graph) return null
  const some = (count: number, has: (state: State, i: number) => boolean) => Array.from({ length: count }, (_, i) => graph.states.some((state) => has(state, i)))
  return {
    gates: some(game.gates.length, (state, g) => state.opened[g] === 1),
    places: some(game.places.length, (state, p) => state.visited[p] === 1),
    sources: some(game.sources.length, (state, s) => state.taken[s]! > 0),
  }
}

interface Graph {
  states: State[]
  won: boolean[]
  into: { from: number; repeat: boolean }[][]
}

function explored(game: Game, from: State, given: Bounds): Graph | null {
  // Where it is asked how many units were taken, it may be repeats that are asked for.
  const counted = new Set([...game.gates, ...game.sources].flatMap(({ requires }) => requires.reads.sources))
  const bounds = { ...given, repeats: game.sources.map((_, s) => (counted.has(s) ? 4 : 0)) }
  const states: State[] = []
  const graph: Graph = { states, won: [], into: [] }
  const ids = new Map<string, number>()
  const add = (state: State): number => {
    const key = keyOf(clipped(game, state, bounds))
    const known = ids.get(key)
    if (known !== undefined) return known
    ids.set(key, states.length)
    graph.won.push(isWon(game, state))
    graph.into.push([])
    return states.push(state) - 1
  }
  add(from)
  for (let id = 0; id < states.length; id++) {
    if (states.length > bounds.states) return null
    for (const { state, repeat } of movesFrom(game, states[id]!)) {
      const to = add(state)
      graph.into[to]!.push({ from: id, repeat })
    }
  }
  return graph
}

function movesFrom(game: Game, state: State): { state: State; repeat: boolean }[] {
  const place = game.places[state.place]!
  const taken = (s: number) => after(state, state.taken[s]! >= game.sources[s]!.count, (next, play) => take(game, next, s, play))
  const opened = (g: number) => (canOpen(game, state, g) ? after(state, false, (next, play) => open(game, next, g, play)) : [])
  const here = place.contents.flatMap(({ source, gate }) => (gate !== null ? opened(gate) : canTake(game, state, source!) ? taken(source!) : []))
  const anywhere = game.anywhere.filter((g) => standsAt(game, game.gates[g]!, state.place)).flatMap(opened)
  const ways = place.ways.filter(({ passage, to }) => gatesOnWay(game, passage, to).every((g) => isOpen(game, state, g)))
  return [...here, ...anywhere, ...ways.flatMap(({ to }) => after(state, false, (next) => enter(game, next, to, plainPlay)))]
}

/** What a move leads to, in every way that chance can fall in it. */
function after(state: State, repeat: boolean, move: (next: State, play: Play) => void): { state: State; repeat: boolean }[] {
  const falls = everyOutcome.rolls((roll) => {
    const next = cloneState(state)
    move(next, { ...plainPlay, roll })
    return next
  })
  return falls.map(([next]) => ({ state: next, repeat }))
}

function clipped(game: Game, state: State, bounds: Bounds & { repeats: number[] }): State {
  state.tallies.forEach((amount, t) => (state.tallies[t] = Math.min(amount, bounds.tally)))
  state.xp.forEach((xp, c) => (state.xp[c] = Math.min(xp, bounds.xp)))
  state.taken.forEach((units, s) => (state.taken[s] = Math.min(units, game.sources[s]!.count + bounds.repeats[s]!)))
  return state
}

function keyOf(state: State): string {
  return Object.values(state).map((part: number | ArrayLike<number>) => (typeof part === 'number' ? part : Array.from(part).join())).join(';')
}

function isWon(game: Game, state: State): boolean {
  const goals = game.places.flatMap(({ goal }, p) => (goal ? [p] : []))
  return goals.length ? goals.every((p) => state.visited[p]) : game.gates.every((gate, g) => !gate.main || gate.live || state.opened[g] === 1)
}

function winning({ won, into }: Graph, repeats: boolean): boolean[] {
  const wins = [...won]
  const queue = won.flatMap((is, id) => (is ? [id] : []))
  for (const id of queue) {
    for (const { from, repeat } of into[id]!) {
      if (wins[from] || (repeat && !repeats)) continue
      wins[from] = true
      queue.push(from)
    }
  }
  return wins
}

function reachable({ into }: Graph): boolean[] {
  const out: number[][] = into.map(() => [])
  into.forEach((steps, to) => steps.forEach(({ from, repeat }) => repeat || out[from]!.push(to)))
  const seen = into.map((_, id) => id === 0)
  const queue = [0]
  for (const id of queue) {
    for (const to of out[id]!) {
      if (seen[to]) continue
      seen[to] = true
      queue.push(to)
    }
  }
  return seen
}
