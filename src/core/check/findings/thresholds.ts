import { mirrored } from '../../language/operators.ts'
import { fromUnits } from '../../rules/compile.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { numberText } from '../../view/numbers.ts'
import { constantOf } from '../route/comparison.ts'
import type { Finding } from '../result.ts'
import { called, finding, type FindingRule } from './finding-rule.ts'

interface Asked {
  tally: number
  op: '>=' | '>' | '<=' | '<' | '==' | '!='
  number: number
  text: string
}

/** Comparisons of one bare tally with a number, the tally on the left. */
export function askedOfTallies(game: Game, { requires }: GameItem): Asked[] {
  return requires.comparisons.flatMap((c): Asked[] => {
    const side = c.constant === 'left' ? c.rightNode : c.leftNode
    if (c.constant === null || side.type !== 'name') return []
    const tally = game.tallies.findIndex((t) => t.id === side.name)
    return tally < 0 ? [] : [{ tally, op: c.constant === 'left' ? mirrored[c.op] : c.op, number: constantOf(c), text: c.text }]
  })
}

/** off-by-one: more than the most there is, where as much as that was meant; or a source that stops short of what a gate wants more than. */
export const offByOne: FindingRule = ({ game, held }) =>
  game.gates.flatMap((gate) => askedOfTallies(game, gate).filter(({ op }) => op === '>').flatMap(({ tally, number, text }): Finding[] => {
    const { id } = game.tallies[tally]!
    const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
    const most = Math.max(...places.map((p) => fromUnits(held.stateAt(p).tallies[tally]!)), 0)
    if (most === number) return [finding('off-by-one', 'fault', 'gate', gate.id, `${called(gate)} asks for ${text}, and ${numberText(number)} is the most ${id} that there can be.`)]
    const stops = game.sources.find((source) => source.yields.some((y) => y.tally === tally) && askedOfTallies(game, source).some((a) => a.tally === tally && a.op === '<' && a.number === number))
    return stops ? [finding('off-by-one', 'fault', 'gate', gate.id, `${called(gate)} asks for ${text}, while ${called(stops)} stops giving at ${numberText(number)}.`)] : []
  }))

/** reset-starves: more of a tally that resets at each place than any one place gives. */
export const resetStarves: FindingRule = ({ game, held, reach }) =>
  reach.closed.flatMap(({ gate: id }) => {
    const gate = game.gates.find((g) => g.id === id)!
    return askedOfTallies(game, gate).flatMap(({ tally, op, number, text }): Finding[] => {
      if (game.tallies[tally]!.resets !== 'place' || !op.startsWith('>')) return []
      const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
      const most = Math.max(...places.map((p) => fromUnits(held.stateAt(p).tallies[tally]!)), 0)
      return most < number ? [finding('reset-starves', 'fault', 'gate', gate.id, `${called(gate)} asks for ${text}, which starts anew in each place, and no place gives more than ${numberText(most)}.`)] : []
    })
  })

/** reset-surprise: what a gate needs is earned where it is lost again before the gate, or is not kept on quitting. */
export const resetSurprise: FindingRule = ({ game }) =>
  game.gates.flatMap((gate) => {
    const read = [...gate.requires.reads.tallies, ...gate.requires.reads.characters.map((c) => game.characters[c]?.tally ?? -1)]
    return [...new Set(read)].filter((t) => t >= 0).flatMap((t): Finding[] => {
      const tally = game.tallies[t]!
      const givers = game.sources.filter((source) => source.yields.some((y) => y.tally === t && y.max > 0))
      const here = givers.some((source) => source.place === gate.place)
      if (tally.resets === 'place' && givers.length > 0 && !here) return [finding('reset-surprise', 'risk', 'gate', gate.id, `${called(gate)} needs ${tally.id}, which is earned in other places and lost on entering this one.`)]
      if (tally.resets === 'retry' && givers.length > 0) return [finding('reset-surprise', 'risk', 'gate', gate.id, `${called(gate)} needs ${tally.id}, which a player who fails and tries again loses.`)]
      return !tally.saved && givers.length > 0 ? [finding('reset-surprise', 'risk', 'gate', gate.id, `${called(gate)} needs ${tally.id}, which is not kept when the player quits.`)] : []
    })
  })

/** unaffordable: the sum of all main costs of a currency is more than can ever be earned. */
export const unaffordable: FindingRule = ({ game, held }) =>
  game.tallies.flatMap((tally, t): Finding[] => {
    const costs = game.gates.filter((gate) => gate.main).flatMap((gate) => gate.costs).filter((cost) => cost.tally === t)
    const sum = costs.reduce((all, cost) => all + cost.amount, 0)
    if (sum === 0 || game.start < 0) return []
    // What is clamped can be earned again once it is spent, so only sums that were never clamped tell.
    const earned = held.earned(t)
    const floor = tally.min === -Infinity ? -Infinity : tally.min
    return tally.start + earned - floor < sum ? [finding('unaffordable', 'fault', 'tally', tally.id, `All main gates together cost ${numberText(fromUnits(sum))} ${tally.id}, and ${numberText(fromUnits(tally.start + earned))} can be had in all.`)] : []
  })

/** loose: every kind of player passes it with more than a third of its threshold to spare. */
export const loose: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate): Finding[] => {
    const seen = routes.flatMap(({ profiles }) => profiles.flatMap(({ gates }) => gates.filter((g) => g.gate === gate.id && g.verdict !== 'off_route')))
    const rooms = seen.flatMap((g) => g.comparisons.map((c) => (c.holds === 1 && c.slack !== null && c.need ? c.slack / Math.abs(c.need) : 0)))
    if (!seen.length || !rooms.length || rooms.some((room) => room <= 1 / 3)) return []
    return [finding('loose', 'note', 'gate', gate.id, `${called(gate)} asks for ${gate.requires.text || 'its cost'}, and everyone has at least ${Math.floor(Math.min(...rooms) * 100)} % more: no player will feel it.`)]
  })

/** side-needed: a main gate that opens for who does the side content, and not for who leaves it. */
export const sideNeeded: FindingRule = ({ game, routes }) =>
  game.gates.filter((gate) => gate.main).flatMap((gate): Finding[] => {
    const verdicts = (side: (share: number) => boolean) => routes.flatMap(({ route, profiles }) => profiles.filter(({ profile }) => {
      const p = game.profiles.find((found) => found.id === profile)!
      return p.main === 1 && side(p.side)
    }).flatMap(({ gates }) => gates.filter((g) => g.gate === gate.id).map((g) => ({ route, verdict: g.verdict }))))
    const without = verdicts((share) => share === 0)
    const route = without.find(({ route, verdict }) => (verdict === 'short' || verdict === 'sealed') && verdicts((share) => share === 1).some((other) => other.route === route && other.verdict === 'clear'))?.route
    return route ? [finding('side-needed', 'risk', 'gate', gate.id, `${called(gate)} is a main gate, and opens only for players who do side content.`, { route })] : []
  })
