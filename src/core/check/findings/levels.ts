import { curveValues } from '../../rules/curve-values.ts'
import { valueAt } from '../../rules/gain.ts'
import { inOrder } from '../../plan/records.ts'
import type { Game } from '../../rules/game.ts'
import { numberText } from '../../view/numbers.ts'
import { constantOf } from '../route/comparison.ts'
import type { Finding } from '../result.ts'
import { called, finding, type FindingRule } from './finding-rule.ts'

/** The level that a gate asks for of a character, where it asks for one with a number. */
function levelAsked(game: Game, g: number): { c: number; level: number; text: string }[] {
  return game.gates[g]!.requires.comparisons.flatMap((comparison) => {
    const { constant, op } = comparison
    if (constant === null) return []
    const side = constant === 'left' ? comparison.rightNode : comparison.leftNode
    const isAtLeast = constant === 'left' ? op === '<=' || op === '<' : op === '>=' || op === '>'
    const number = constantOf(comparison) + (op === '>' || op === '<' ? 1 : 0)
    const arg = side.type === 'call' && side.name === 'level' ? side.args[0] : undefined
    const c = side.type === 'name' && side.name === 'level' ? 0 : arg?.type === 'name' ? game.characters.findIndex((found) => found.id === arg.name) : -1
    return isAtLeast && c >= 0 && game.characters[c] ? [{ c, level: number, text: comparison.text }] : []
  })
}

/** cap-below-gate: a level above every cap that can be in force when the gate is due. */
export const capBelowGate: FindingRule = ({ game, routes, traces }) =>
  game.gates.flatMap((gate, g) => levelAsked(game, g).flatMap(({ c, level, text }): Finding[] => {
    const character = game.characters[c]!
    const seen = routes.flatMap(({ route, profiles }) => profiles.flatMap(({ profile, gates }) => {
      const due = gates.find((found) => found.gate === gate.id)?.due
      const trace = traces.find((t) => t.route === route && t.profile === profile)?.trace
      return due && trace ? [trace.stops[due.stop]!.left.limits[c]!] : []
    }))
    const most = Math.max(...seen)
    return seen.length && most < level ? [finding('cap-below-gate', 'fault', 'gate', gate.id, `${called(gate)} asks for ${text}, and the limit of ${called(character)} is ${most} when it is due.`)] : []
  }))

/** xp-lost: XP that came at a level limit, or was cleared at a level-up. */
export const xpLost: FindingRule = ({ game, traces }) =>
  game.characters.flatMap((character, c): Finding[] => {
    const sums = traces.map(({ route, profile, trace }) => ({ route, profile, lost: trace.stops.reduce((all, stop) => all + Object.values(stop.items).reduce((sum, item) => sum + item.lost[c]!, 0), 0), trace }))
    const most = sums.sort((a, b) => b.lost - a.lost)[0]
    if (!most || most.lost <= 0 || !character.curve) return []
    const level = Math.floor(most.trace.stops.at(-1)!.left.positions[c]!)
    const next = Math.min(level, character.curve.maxLevel - 1)
    const value = character.curve.values[Math.max(0, next - character.curve.firstLevel)]! / character.curve.grain / 10_000
    const before = character.curve.counts === 'total' && next > character.curve.firstLevel ? valueAt(character.curve, next - 1) / character.curve.grain / 10_000 : 0
    const levels = Math.round((most.lost / (value - before)) * 10) / 10
    return [finding('xp-lost', 'risk', 'character', character.id, `${called(character)} loses ${numberText(Math.round(most.lost * 100) / 100)} XP on the way, ${numberText(levels)} levels' worth at the end.`, most)]
  })

/** level-lag: with one level for each gain, XP that is past what the next level takes. */
export const levelLag: FindingRule = ({ game, traces }) =>
  game.characters.flatMap((character, c): Finding[] => {
    if (character.curve?.levelsPerGain !== 'one') return []
    const late = traces.find(({ trace }) => trace.stops.some((stop) => stop.left.positions[c]! % 1 > 0.9985 && stop.left.positions[c]! < stop.left.limits[c]!))
    return late ? [finding('level-lag', 'risk', 'character', character.id, `${called(character)} gets one level for each gain, and a gain worth several leaves the level behind the XP.`, late)] : []
  })

/** curve-error: values missing, not finite, not positive or not rising. */
export const curveError: FindingRule = ({ records }) =>
  inOrder(records, 'curve').flatMap((curve) => curveValues(curve).faults.slice(0, 1).map((fault) => finding('curve-error', 'fault', 'curve', curve.id, `${called(curve)} is wrong at level ${fault.level}: ${fault.message}.`)))

/** curve-dip: a level that takes less than the one before it. */
export const curveDip: FindingRule = ({ records }) =>
  inOrder(records, 'curve').flatMap((curve): Finding[] => {
    const values = curveValues(curve).values.map((value) => value.toNumber())
    const steps = curve.counts === 'total' ? values.map((value, i) => value - (values[i - 1] ?? 0)) : values
    const dip = steps.findIndex((step, i) => i > 0 && step < steps[i - 1]!)
    if (dip < 0) return []
    const level = curve.firstLevel + dip
    return [finding('curve-dip', 'note', 'curve', curve.id, `${called(curve)}: ${level} → ${level + 1} takes ${numberText(steps[dip]!)}, less than the ${numberText(steps[dip - 1]!)} of the level before.`)]
  })

/** form-gap, form-overlap: levels that no form or two forms cover, and forms beyond the top. */
export const forms: FindingRule = ({ records }) =>
  inOrder(records, 'character').flatMap((character): Finding[] => {
    const curve = inOrder(records, 'curve').find((row) => row.id === character.curve)
    if (!curve || character.forms.length === 0) return []
    const levels = Array.from({ length: curve.maxLevel - curve.firstLevel + 1 }, (_, i) => curve.firstLevel + i)
    const covering = (level: number) => character.forms.filter((form) => form.from <= level && level <= form.to)
    const gap = levels.find((level) => covering(level).length === 0)
    const double = levels.find((level) => covering(level).length > 1)
    const beyond = character.forms.find((form) => form.to > curve.maxLevel)
    return [
      ...(gap === undefined ? [] : [finding('form-gap', 'fault', 'character', character.id, `${called(character)} has no form at level ${gap}.`)]),
      ...(double === undefined ? [] : [finding('form-overlap', 'fault', 'character', character.id, `${called(character)} has ${covering(double).map(called).join(' and ')} both at level ${double}.`)]),
      ...(beyond ? [finding('form-gap', 'fault', 'character', character.id, `${called(beyond)} of ${called(character)} goes to level ${beyond.to}, beyond the top, ${curve.maxLevel}.`)] : []),
    ]
  })

/** reward-chain: a reward for a level that causes level-ups in turn. */
export const rewardChain: FindingRule = ({ game }) =>
  game.characters.flatMap((character): Finding[] => {
    const { curve } = character
    if (!curve) return []
    const given = (level: number) => character.rewards.filter((r) => r.level === 'every' || r.level === level).flatMap((r) => r.yields).filter((y) => y.tally === character.tally).reduce((sum, y) => sum + y.max, 0) * curve.grain
    const room = (level: number) => valueAt(curve, level) - (curve.counts === 'total' && level > curve.firstLevel ? valueAt(curve, level - 1) : 0)
    const chains = (level: number) => level < curve.maxLevel && given(level) >= room(level)
    const first = Array.from({ length: curve.maxLevel - curve.firstLevel }, (_, i) => curve.firstLevel + 1 + i).find(chains)
    if (first === undefined) return []
    let end = first
    while (chains(end)) end++
    const says = `The reward of ${called(character)} for level ${first} is worth a level itself, and carries on to level ${end}${end === curve.maxLevel ? ', the top' : ''}.`
    return [finding('reward-chain', end === curve.maxLevel ? 'fault' : 'risk', 'character', character.id, says)]
  })
