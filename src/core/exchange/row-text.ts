import type { Vocabulary } from '../language/names.ts'
import type { RecordOf } from '../plan/kinds.ts'
import type { WholeSource } from '../plan/source.ts'
import type { Cost } from '../plan/yield.ts'
import { missingAt } from './entry-faults.ts'
import { amountText, costsOf, costText, countNeed, isCount, readAmounts, readCount, readTrade, wordsOf, type TallyName } from './gives.ts'
import { requirementFault, type LineFault } from './line-fault.ts'

type Gives = Pick<WholeSource, 'count' | 'yields' | 'takes' | 'respawns'>

/** What a source gives, as its cell shows it and as it is typed there. */
export function givesText({ count, yields, takes, respawns }: Gives): string {
  const gives = yields.map(amountText).join(', ')
  const cost = takes.length ? `${gives ? ' ' : ''}takes ${takes.map(costText).join(', ')}` : ''
  return `${count > 1 ? `${count} × ` : ''}${gives}${cost}${respawns ? ' respawns' : ''}`.trim()
}

/** The same with the condition on which a unit can be taken. */
export function sourceText(source: Gives & Pick<WholeSource, 'requires'>): string {
  return `${givesText(source)}${conditionText(source)}`
}

export function conditionText({ requires }: Pick<WholeSource, 'requires'>): string {
  return requires ? ` if ${requires}` : ''
}

/** What a gate asks for, as its cell shows it and as it is typed there. */
export function asksText({ requires, costs }: Pick<RecordOf['gate'], 'requires' | 'costs'>): string {
  const cost = costs.map(costText).join(', ')
  if (!cost) return requires
  return requires ? `${requires} for ${cost}` : `for ${cost}`
}

export type CellRead<T> = { ok: true; fields: T } | ({ ok: false; column?: number } & LineFault)

/** Reads a source's cell: count, amounts, what a unit takes, and whether it respawns. */
export function readGives(text: string, tallies: readonly TallyName[]): CellRead<Gives> {
  const all = wordsOf(text)
  const respawns = all.at(-1) === 'respawns'
  const words = respawns ? all.slice(0, -1) : all
  const { count, next: start } = readCount(words, tallies)
  const { yields, takes, next } = readTrade(words, start, tallies)
  if (!isCount(count)) return { ok: false, says: countNeed }
  if (next < words.length) {
    const known = tallies.map((tally) => tally.id).join(', ')
    const says = `"${words.slice(next).join(' ')}" is no amount of a tally: write 4 × 15 renown, 2-4 stamps (tallies: ${known || 'none yet'})`
    return { ok: false, says, ...missingAt(words, next, tallies, words.slice(0, next).includes('takes') ? 'paid' : 'given') }
  }
  return { ok: true, fields: { count, yields, takes, respawns } }
}

/** Reads a source's cell with the condition that may stand behind it: `20 renown takes 1 stamps if level >= 3`. */
export function readSource(text: string, tallies: readonly TallyName[], vocabulary: Vocabulary): CellRead<Gives & Pick<WholeSource, 'requires'>> {
  const [gives = '', condition = ''] = text.split(/\bif\s(.*)/s)
  const read = readGives(gives, tallies)
  if (!read.ok) return read
  const asks = readAsks(condition, tallies, vocabulary)
  if (!asks.ok) return asks
  if (asks.fields.costs.length) return { ok: false, says: 'what a unit uses up is written before "if": 20 renown takes 1 stamps if level >= 3' }
  return { ok: true, fields: { ...read.fields, requires: asks.fields.requires } }
}

/** Reads a gate's cell: its requirement, and after `for` what it costs. */
export function readAsks(text: string, tallies: readonly TallyName[], vocabulary: Vocabulary): CellRead<{ requires: string; costs: Cost[] }> {
  const at = /(^|\s)for(?=\s+[\d.])/.exec(text)
  const requires = (at ? text.slice(0, at.index) : text).trim()
  const words = at ? wordsOf(text.slice(at.index + at[0].length)) : []
  const { amounts, next } = readAmounts(words, 0, tallies)
  if (next < words.length) return { ok: false, says: `"${words.slice(next).join(' ')}" is no amount of a tally: write level >= 8 for 5 stamps`, ...missingAt(words, next, tallies, 'paid') }
  const fault = requirementFault(requires, vocabulary)
  if (fault) return { ok: false, ...fault, says: `column ${fault.column}: ${fault.says}` }
  return { ok: true, fields: { requires, costs: costsOf(amounts) } }
}
