import { labelOf } from '../../plan/label-of.ts'
import type { GameSource } from '../../rules/game.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** reset-surprise: what a gate needs is earned where it is lost again before the gate, or is not kept on quitting. */
export const resetSurprise: FindingRule = ({ game }) => {
  const giversOf = game.tallies.map((): GameSource[] => [])
  for (const source of game.sources) for (const t of new Set(source.yields.filter((y) => y.max > 0).map((y) => y.tally))) giversOf[t]!.push(source)
  return game.gates.flatMap((gate) => {
    const read = [...gate.requires.reads.tallies, ...gate.requires.reads.characters.map((c) => game.characters[c]?.tally ?? -1)]
    return [...new Set(read)].filter((t) => t >= 0).flatMap((t): Finding[] => {
      const tally = game.tallies[t]!
      const givers = giversOf[t]!
      const isHere = () => givers.some((source) => source.place === gate.place)
      if (tally.resets === 'place' && givers.length > 0 && !isHere()) return [finding('reset-surprise', 'risk', 'gate', gate.id, `${labelOf(gate)} needs ${tally.id}, which is earned in other places and lost on entering this one.`)]
      if (tally.resets === 'retry' && givers.length > 0) return [finding('reset-surprise', 'risk', 'gate', gate.id, `${labelOf(gate)} needs ${tally.id}, which a player who fails and tries again loses.`)]
      return !tally.saved && givers.length > 0 ? [finding('reset-surprise', 'risk', 'gate', gate.id, `${labelOf(gate)} needs ${tally.id}, which is not kept when the player quits.`)] : []
    })
  })
}
