import { Reach } from '../check/reach/reach.ts'
import { breakersOf, ClosedReasons } from '../check/reach/reasons.ts'
import { labelOf } from '../plan/label-of.ts'
import { fromUnits } from '../rules/compile.ts'
import type { Game, GamePlace } from '../rules/game.ts'
import { earnedOn } from './stages.ts'
import { withoutEnd } from '../rules/relaxed.ts'

/** In which wave something is first had, without repeats and with them; null: never. */
export interface MapWaves {
  once: number | null
  repeated: number | null
}

export interface MapPlace {
  key: string
  id: string
  name: string
  kind: GamePlace['kind']
  goal: boolean
  /** Of a stage: what can be earned there, by the name of the tally. */
  earns: { tally: string; most: number }[]
  waves: MapWaves
  /** No way leads on or back from it, and it is no goal. */
  isDeadEnd: boolean
}

export interface MapPassage {
  key: string
  id: string
  /** Keys of places. */
  from: string
  to: string
  twoWay: boolean
  /** Keys of the gates that bar it, or the place that it leads into. */
  gates: string[]
}

export interface MapGate {
  key: string
  id: string
  name: string
  /** Key of the place in which it stands; null: in none. */
  place: string | null
  asks: string
  waves: MapWaves
  /** Why it stays closed even with repeats, and the ring of gates (keys) that it is in. */
  why: string[]
  ring: string[] | null
  /** Keys of the gates of the ring of which one alone has to ask for less to break it. */
  breaks: string[]
  /** Keys of gates that it asks for. */
  needs: string[]
}

/** What is held at the end of a wave; null: without end. */
export interface MapWave {
  tallies: { id: string; amount: number | null }[]
  levels: { id: string; level: number }[]
}

/** The structure of a plan, and in which order it opens in any order of play (docs/checks.md 2). */
export interface MapData {
  start: string | null
  places: MapPlace[]
  passages: MapPassage[]
  gates: MapGate[]
  waves: { once: MapWave[]; repeated: MapWave[] }
}

export function mapOf(game: Game): MapData {
  const [once, repeated] = [runWith(game, false), runWith(game, true)]
  const waves = (kind: 'places' | 'gates', i: number): MapWaves => ({ once: orNull(once.reach.waves[kind][i]!), repeated: orNull(repeated.reach.waves[kind][i]!) })
  const reasons = new ClosedReasons(game, repeated.reach)
  const keyOfGate = (g: number) => game.gates[g]!.key
  const byId = new Map(game.gates.map(({ id }, g) => [id, g]))
  const breakers = new Map<string, string[]>()
  const breaksOf = (ring: readonly number[]): string[] => {
    const name = [...ring].sort((a, b) => a - b).join()
    if (!breakers.has(name)) breakers.set(name, breakersOf(game, ring).map(keyOfGate))
    return breakers.get(name)!
  }
  return {
    start: game.places[game.start]?.key ?? null,
    places: game.places.map((place, p) => ({ key: place.key, id: place.id, name: labelOf(place), kind: place.kind, goal: place.goal, earns: place.kind === 'stage' ? earnedOn(game, null, p).map(({ tally, most }) => ({ tally, most })) : [], waves: waves('places', p), isDeadEnd: place.waysIn.length > 0 && place.ways.length === 0 && !place.goal })),
    passages: game.passages.map(({ key, id, from, to, twoWay, guards }) => ({
      key, id, from: game.places[from]!.key, to: game.places[to]!.key, twoWay, gates: [...guards, ...game.places[to]!.guards, ...(twoWay ? game.places[from]!.guards : [])].map(keyOfGate),
    })),
    gates: game.gates.map((gate, g) => {
      const isClosed = !repeated.reach.has('gates', g)
      const ring = isClosed ? (reasons.ring(g)?.map((id) => byId.get(id)!) ?? null) : null
      return {
        key: gate.key, id: gate.id, name: labelOf(gate), place: gate.place === null ? null : game.places[gate.place]!.key,
        asks: [gate.requires.text, gate.costs.map(({ tally, amount }) => `${fromUnits(amount)} ${game.tallies[tally]!.id}`).join(', ')].filter(Boolean).join(' for '),
        waves: waves('gates', g), why: isClosed ? reasons.why(g) : [], ring: ring && ring.map(keyOfGate), breaks: ring ? breaksOf(ring) : [],
        needs: gate.requires.reads.gates.map(keyOfGate),
      }
    }),
    waves: { once: once.waves, repeated: repeated.waves },
  }
}

function runWith(game: Game, repeats: boolean): { reach: Reach; waves: MapWave[] } {
  const waves: MapWave[] = []
  const onWave = (reach: Reach) => {
    const state = reach.stateAt(game.start)
    waves.push({
      tallies: game.tallies.map(({ id }, t) => ({ id, amount: state.tallies[t]! >= withoutEnd ? null : fromUnits(state.tallies[t]!) })),
      levels: game.characters.map(({ id }, c) => ({ id, level: state.level[c]! })),
    })
  }
  return { reach: new Reach(game, { repeats, onWave }).run(), waves }
}

function orNull(wave: number): number | null {
  return wave < 0 ? null : wave
}

/** A closed gate and everything that it waits on, back to what waits on nothing: keys of gates. */
export function chainOf({ gates }: MapData, key: string): Set<string> {
  const byKey = new Map(gates.map((gate) => [gate.key, gate]))
  const chain = new Set([key])
  for (const one of chain) {
    const gate = byKey.get(one)
    for (const next of [...(gate?.ring ?? []), ...(gate?.needs ?? [])]) if (byKey.get(next)?.waves.repeated === null || next === key) chain.add(next)
  }
  return chain
}
