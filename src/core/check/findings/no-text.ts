import { labelOf } from '../../plan/label-of.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** no-text: a gate that bars the way and tells the player nothing. */
export const noText: FindingRule = ({ game }) =>
  game.gates.filter((gate) => gate.guards !== null && gate.lockedText.trim() === '').map((gate) => finding('no-text', 'note', 'gate', gate.id, `${labelOf(gate)} bars the way and tells the player nothing.`))
