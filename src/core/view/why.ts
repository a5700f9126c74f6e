import type { ComparisonResult, DebtEntry, GateResult } from '../check/result.ts'
import { positionAt } from '../change/fit-curve.ts'
import type { Condition, ExplainedEntry, ReadExplanation } from '../check/route/explain.ts'
import { fillText } from '../play/fill-text.ts'
import { parseOrNull } from '../language/requirement.ts'
import { labelOf } from '../plan/label-of.ts'
import { inOrder, keysOf, type Records, type Row } from '../plan/records.ts'
import { remembered } from '../plan/remembered.ts'
import { levelTicks } from './level-axis.ts'
import { pegsOf } from './pegs.ts'
import { countText, minutesText, numberText, percentText } from './numbers.ts'

/** The names of what a plan's ids stand for. */
export interface Names {
  source(id: string): string
  gate(id: string): string
  place(id: string): string
  tally(id: string): string
  character(id: string): string
  /** The place in which a source stands. */
  placeOfSource(id: string): string
}

/** Names by id, made once for each kind as long as nothing of it changes. */
const namesKnown = new WeakMap<object, ReadonlyMap<string, string>>()

function namesIn(records: Records, kind: 'source' | 'gate' | 'place' | 'tally' | 'character'): ReadonlyMap<string, string> {
  return remembered(namesKnown, records[kind], () => new Map(inOrder(records, kind).map((row) => [row.id, labelOf(row)])))
}

export function namesOf(records: Records): Names {
  const lookup = (kind: Parameters<typeof namesIn>[1]) => (id: string) => namesIn(records, kind).get(id) ?? id
  return {
    source: lookup('source'), gate: lookup('gate'), place: lookup('place'), tally: lookup('tally'), character: lookup('character'),
    placeOfSource: (id) => records.place.get(records.source.get(keysOf(records, 'source').get(id) ?? '')?.place ?? '')?.name ?? '',
  }
}

/** One sentence that says what the verdict rests on. */
export function verdictSentence(gate: GateResult, due: string, names: Names): string {
  if (gate.error) return `In error, so it counts as closed: ${gate.error}.`
  if (gate.verdict === 'off_route') return 'This route neither meets nor needs it.'
  const place = names.place(gate.due!.place)
  const moment = due === 'meeting' ? `Due when it is met at ${place}.` : due === 'route' ? `Due by the end of the route, at ${place}.` : `Due on leaving ${place}.`
  if (!gate.met || gate.met.stop > gate.due!.stop) return `Needed on leaving ${place}, ${gate.met ? `but only met later, at ${names.place(gate.met.place)}` : 'where the player has not come to it'}.`
  const tells: Record<string, string> = {
    clear: gate.opened === null ? 'All that it asks for is there.' : 'It is open by then for everyone.',
    depends: `${percentText(gate.p, false)} of these players have what it asks for.`,
    short: 'What was placed before it is not enough; further units would open it.',
    sealed: 'No number of further units opens it there.',
  }
  return `${moment} ${tells[gate.verdict]}`
}

/** What the player reads at a gate: where it stays closed, with the numbers of what is first unmet. */
export function playerReads({ lockedText }: Pick<Row<'gate'>, 'lockedText'>, { verdict, comparisons }: GateResult): string {
  const unmet = verdict === 'short' || verdict === 'sealed' ? comparisons.find(({ holds, has, need }) => holds < 1 && has && need !== null) : undefined
  return unmet ? fillText(lockedText, { need: unmet.need!, have: unmet.has!.median }) : lockedText
}

/** When a gate that is late becomes ready after all. */
export function readySentence(gate: GateResult, placeAt: (stop: number) => string): string | null {
  if (gate.verdict === 'clear' || gate.verdict === 'off_route' || gate.error) return null
  if (gate.ready === null) return gate.met ? 'Along this route the player never has what it asks for.' : null
  return gate.wait ? `Ready ${countText(gate.wait, 'stop')} after it is met, at ${placeAt(gate.ready)}.` : null
}

/** What there is of a part that compares no numbers; of a gate that is to be open, where it opens. `gateOf`: its result on this route. */
export function conditionText({ text, holds }: Condition, gateOf: (id: string) => GateResult | undefined, placeAt: (stop: number) => string): string {
  if (holds) return 'yes'
  const node = parseOrNull(text)
  if (node?.type === 'name') return 'none'
  const [of] = node?.type === 'call' ? node.args : []
  if (node?.type !== 'call' || node.name !== 'open' || of?.type !== 'name') return 'not so'
  const gate = gateOf(of.name)
  if (!gate || gate.verdict === 'off_route') return 'not on this route'
  return gate.opened === null ? 'never opens' : `opens at ${placeAt(gate.opened)}`
}

/** How much XP, and how many levels or what part of one, is missing to a level; null where the sum of gains does not tell (XP lost, a later start). */
export function xpShort(records: Records, comparison: ComparisonResult, leader: string | null, explanation: Pick<ReadExplanation, 'from' | 'lost'>): { tally: string; xp: number; levels: number } | null {
  const peg = pegsOf({ requires: comparison.text, costs: [] }, leader)[0]
  const character = inOrder(records, 'character').find((row) => peg?.lane === `level ${row.id}`)
  const curve = character && inOrder(records, 'curve').find((row) => row.id === character.curve)
  const first = curve && (character.startLevel ?? curve.firstLevel) === curve.firstLevel
  if (!peg || !peg.op.startsWith('>') || comparison.holds === 1 || !character || !curve || !first || character.joins !== null) return null
  if (explanation.lost.length || curve.remainder === 'clear' || curve.levelsPerGain === 'one') return null
  const ticks = levelTicks(curve)
  const wanted = ticks.findIndex((tick) => tick.level === Math.ceil(peg.op === '>' ? peg.at + 1 : peg.at))
  const held = explanation.from.filter((entry) => entry.tally === character.experience && entry.cause !== 'start').reduce((sum, entry) => sum + entry.total, 0)
  if (wanted < 1) return null
  const xp = tidy(ticks[wanted]!.xp - held)
  return xp > 0 ? { tally: character.experience, xp, levels: Math.round((ticks[wanted]!.level - positionAt(curve, held)) * 10) / 10 } : null
}

/** `short by 34 renown, 0.6 of a level` */
export function shortText({ tally, xp, levels }: { tally: string; xp: number; levels: number }): string {
  return `short by ${numberText(xp)} ${tally}, ${levels <= 1 ? `${numberText(levels)} of a level` : `${numberText(levels)} levels`}`
}

export interface SumLine {
  place: string
  label: string
  detail: string
  total: number
}

/** The sum behind one tally, as a designer would write it. */
export interface Sum {
  tally: string
  lines: SumLine[]
  /** How many lines it has where each source has its own. */
  count: number
  total: number
}

export function sumsOf({ from, lines: counts }: ReadExplanation, names: Names, placeAt: (stop: number) => string): Sum[] {
  const tallies = [...new Set(from.map((entry) => entry.tally))]
  return tallies.map((tally) => {
    const lines = from.filter((entry) => entry.tally === tally).map((entry) => sumLine(entry, names, placeAt))
    return { tally, lines, count: counts[tally]!, total: tidy(lines.reduce((sum, line) => sum + line.total, 0)) }
  })
}

function sumLine(entry: ExplainedEntry, names: Names, placeAt: (stop: number) => string): SumLine {
  const { total, units } = entry
  const place = placeAt(entry.stop)
  if (entry.cause === 'start') return { label: 'at the start', detail: '', place: '', total }
  if (entry.cause === 'stop') return { label: place, detail: '', place, total }
  if (entry.cause === 'reset') return { label: `reset on entering ${place}`, detail: '', place, total }
  const label = entry.source !== null ? names.source(entry.source) : names.gate(entry.gate ?? '')
  const each = units > 1 && total % units === 0 ? `${numberText(units)} × ${numberText(total / units)}` : units > 1 ? countText(units, 'unit') : ''
  return { label, detail: each, place, total }
}

function tidy(n: number): number {
  return Math.round(n * 10_000) / 10_000
}

/** `7 more of Frost wisps at Gull Stair (5 not taken, then 2 repeats), about 5 min` */
export function debtText(debt: DebtEntry, names: Names): string {
  const { untaken, repeats, minutes } = debt
  const split = untaken && repeats ? ` (${numberText(untaken)} not taken, then ${countText(repeats, 'repeat')})` : untaken ? ' (not taken so far)' : ' (repeats)'
  const place = names.placeOfSource(debt.source)
  return `${numberText(untaken + repeats)} more of ${names.source(debt.source)}${place ? ` at ${place}` : ''}${split}, about ${minutesText(minutes)}`
}
