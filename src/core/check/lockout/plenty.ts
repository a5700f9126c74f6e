import { changedGame, type Game, type GameItem, type GameSource } from '../../rules/game.ts'
import { rises } from '../../rules/relaxed.ts'
import type { State } from '../../rules/state.ts'
import { scopeOf, type Scope } from './scope.ts'

/**
 * The game for who may repeat: a tally that starts anew in each place, and can be earned without end wherever it is asked for,
 * counts as held. Nobody can miss what asks for it, so how much of it is held tells no states apart.
 */
export function withPlenty(game: Game): Game {
  const scope = scopeOf(game)
  const plenty = new Set(game.tallies.flatMap((_, t) => (scope.tallies[t] && isPlenty(game, scope, t) ? [t] : [])))
  if (plenty.size === 0) return game
  const without = <T extends GameItem>(item: T): T => ({ ...item, yields: item.yields.filter((y) => !plenty.has(y.tally)) })
  return changedGame(game, {
    tallies: game.tallies.map((tally, t) => (plenty.has(t) ? { ...tally, start: scope.enough[t]!, max: Infinity, resets: 'never' } : tally)),
    sources: game.sources.map(without),
    gates: game.gates.map(without),
  })
}

function isPlenty(game: Game, scope: Scope, t: number): boolean {
  const { resets, listeners, max } = game.tallies[t]!
  const items: GameItem[] = [...game.sources.filter((_, s) => scope.sources[s]), ...game.gates.filter((_, g) => scope.gates[g])]
  const isUsedUp = items.some((item) => [...('takes' in item ? (item as GameSource).takes : []), ...('costs' in item ? (item as Game['gates'][number]).costs : [])].some((cost) => cost.tally === t) || item.yields.some((y) => y.tally === t && y.min < 0))
  const asking = items.filter((item) => item.requires.reads.tallies.includes(t))
  return (
    resets === 'place' && listeners.length === 0 && !isUsedUp && max >= scope.enough[t]! &&
    game.characters.every(({ rewards }) => rewards.every(({ yields }) => yields.every((y) => y.tally !== t))) &&
    asking.every((item) => rises(item.requires) && isAskedWhereItStands(item) && supplierAt(game, item.place, t) !== null)
  )
}

/** A live gate asks wherever it is passed from. */
function isAskedWhereItStands(item: GameItem): item is GameItem & { place: number } {
  return item.place !== null && !('live' in item && item.live)
}

/** A source of a place that can be repeated without end, asks for nothing and gives nothing but this tally; null: there is none. */
function supplierAt(game: Game, place: number, t: number): number | null {
  const supplies = (source: GameSource) => source.respawns && !source.error && source.requires.node === null && source.takes.length === 0 && source.caps.length === 0 && source.yields.every((y) => y.tally === t && y.min > 0)
  return game.places[place]!.contents.find(({ source }) => source !== null && supplies(game.sources[source]!))?.source ?? null
}

/** The source to repeat in the place where the player stands, so that an item can be taken or opened; null: none helps. */
export function supplierFor(game: Game, state: State, item: GameItem): number | null {
  for (const t of item.requires.reads.tallies) {
    const supplier = game.tallies[t]!.resets === 'place' ? supplierAt(game, state.place, t) : null
    if (supplier !== null) return supplier
  }
  return null
}
