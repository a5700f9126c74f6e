import { labelOf } from '../../plan/label-of.ts'
import type { Game } from '../../rules/game.ts'
import type { Finding } from '../result.ts'
import { positionOnLeaving } from '../route/trace.ts'
import { askedNumbers } from './asked-numbers.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** The level that a gate asks for of a character, where it asks for one with a number. */
function levelAsked(game: Game, g: number): { c: number; level: number; text: string }[] {
  return askedNumbers(game, game.gates[g]!).flatMap(({ of, op, number, text }) => ('character' in of && op.startsWith('>') ? [{ c: of.character, level: op === '>' ? number + 1 : number, text }] : []))
}

/** cap-below-gate: a level above every cap that can be in force when the gate is due. */
export const capBelowGate: FindingRule = ({ game, routes, played }) => {
  const walks = played.map(({ route, profile, trace }) => {
    const gates = routes.find((found) => found.route === route)!.profiles.find((found) => found.profile === profile)!.gates
    return { gates, trace }
  })
  return game.gates.flatMap((gate, g) => levelAsked(game, g).flatMap(({ c, level, text }): Finding[] => {
    const character = game.characters[c]!
    const limits = walks.flatMap(({ gates, trace }) => {
      const { due } = gates[g]!
      return due ? [positionOnLeaving(trace, due.stop, c).limit] : []
    })
    const most = Math.max(...limits)
    return limits.length && most < level ? [finding('cap-below-gate', 'fault', 'gate', gate.id, `${labelOf(gate)} asks for ${text}, and the limit of ${labelOf(character)} is ${most} when it is due.`)] : []
  }))
}
