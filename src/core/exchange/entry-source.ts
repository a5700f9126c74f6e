import type { RecordOf } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { nearest } from '../plan/nearest.ts'
import { sourceKinds } from '../plan/source.ts'
import { leftOver, noAmount, noTally } from './entry-faults.ts'
import { nothing, type EntryContext, type EntryReading } from './entry-reading.ts'
import { takeTail, type SourceKind } from './entry-tail.ts'
import { countNeed, isAmount, isAmountAt, isCount, readCount, readTrade, wordsOf, type TallyName } from './gives.ts'
import { requirementFault, type LineFault } from './line-fault.ts'
import { conditionText, sourceText } from './row-text.ts'

/** What a line says of a source apart from its name, its count and what it gives. */
interface Said {
  kind: SourceKind | undefined
  role: 'main' | 'side'
  minutes: number
  respawns: boolean
  requires: string
}

/** `12 drift hares 20 renown if level >= 3 side`, `quest Sort the mail 40 renown`, `6 drift Drifts on the pans`. */
export function readSourceLine(line: string, context: EntryContext): EntryReading {
  const { words, condition } = cutCondition(line, context)
  if (condition === '') return nothing('after "if" comes a condition, such as level >= 3')
  const fault = requirementFault(condition ?? '', context.vocabulary)
  if (fault) return nothing(fault)
  const unknown = unknownAmount(line.split(/\sif\s/)[0]!, context.tallies)
  if (unknown) return nothing(unknown)
  const kind = leadingKind(words[0]!, context)
  const { rest, tail } = takeTail(kind ? words.slice(1) : words, 'source')
  const said: Said = { kind, role: 'main', minutes: 0, respawns: false, requires: condition ?? '', ...tail }
  const { tallies, patterns } = context
  const { count, next } = readCount(rest, tallies)
  const pattern = patterns.find(({ id }) => id === rest[next])
  // With amounts of its own it is a source of its own: 12 drift hares 20 renown.
  const isMeantAsAmount = (word: string, i: number) => /^[+-]?\d/.test(word) && nearest(rest[i + 1] ?? '', tallies.map(({ id }) => id)).length > 0
  const hasAmounts = rest.some((word, i) => i > next && (isAmountAt(rest, i, tallies) || isMeantAsAmount(word, i)))
  return pattern && !hasAmounts ? readPatterned(rest.slice(next + 1).join(' '), count, said, pattern) : readPlainSource(rest, said, tallies)
}

/**
 * Cuts what stands behind "if" off a line; words that say something of the whole may follow it, too. A name may have an "if" in it:
 * a condition comes after an amount or a pattern. `condition` null: there is none.
 */
function cutCondition(line: string, { tallies, patterns }: EntryContext): { words: string[]; condition: string | null } {
  for (const { 0: found, index } of line.matchAll(/\sif(?=\s|$)/g)) {
    const words = wordsOf(line.slice(0, index))
    if (!words.some((word, i) => isAmountAt(words, i, tallies) || patterns.some(({ id }) => id === word))) continue
    const behind = line.slice(index + found.length).split(/\s+/).filter(Boolean)
    const { rest } = takeTail(behind, 'source')
    return { words: [...words, ...behind.slice(rest.length)], condition: rest.join(' ') }
  }
  return { words: wordsOf(line), condition: null }
}

/** A name may have numbers in it; but what a comma or an "and" parts from the next amount is an amount itself. */
function unknownAmount(line: string, tallies: readonly TallyName[]): LineFault | null {
  const parted = /(,\s+|(?<!\d),|\s(and|\+)\s+)(?=[+-]?\d)/.exec(line)
  const words = parted ? wordsOf(line.slice(0, parted.index)) : []
  const at = words.findIndex((word, i) => i > 0 && isAmount(word) && i + 1 < words.length && words[i + 1] !== '×')
  return at < 0 || words.some((_, i) => isAmountAt(words, i, tallies)) ? null : noTally(words.slice(at + 1), tallies, 'given')
}

/** A line may begin with a source's kind as with a gate's; with a capital it is a name: Event tickets. */
function leadingKind(word: string, { patterns }: EntryContext): SourceKind | undefined {
  return patterns.some(({ id }) => id === word) ? undefined : sourceKinds.find((kind) => kind === word)
}

/** `6 drift Drifts on the pans side`: what it gives comes from the pattern. */
function readPatterned(name: string, count: number, { kind, role, respawns, minutes, requires }: Said, pattern: { id: string; name: string }): EntryReading {
  if (!isCount(count)) return nothing(countNeed)
  const own = { ...(kind && { kind }), ...(respawns && { respawns }), ...(minutes && { minutes }) }
  const record = { name: name || labelOf(pattern), pattern: pattern.id, role, count, requires, caps: [], ...own } satisfies Omit<RecordOf['source'], 'id'>
  return { kind: 'source', record, says: [kind ?? 'source', `${count} × pattern ${pattern.id}${conditionText(record)}`, role].join(' · ') }
}

function readPlainSource(words: string[], { kind, role, respawns, minutes, requires }: Said, tallies: readonly TallyName[]): EntryReading {
  const lead = readCount(words, tallies)
  let at = lead.next
  while (at < words.length && !isAmountAt(words, at, tallies) && words[at] !== 'takes') at++
  const inner = countBefore(words, at, lead.next)
  const name = words.slice(lead.next, inner === null ? at : at - 2).join(' ')
  const { yields, takes, next } = readTrade(words, at, tallies)
  const last = countBehind(words.slice(next))
  const counts = [...(lead.next > 0 ? [lead.count] : []), ...[inner, last].filter((count) => count !== null)]
  if (!counts.every(isCount)) return nothing(countNeed)
  if (name === '') return nothing('a source needs a name before its amounts: 12 drift hares 20 renown')
  if (last === null && next < words.length) return nothing(leftOver(words.slice(next), tallies, words.slice(0, next).includes('takes') ? 'paid' : 'given'))
  if (yields.length + takes.length === 0) return nothing(noAmount(words, tallies))
  if (counts.length > 1) return nothing(`how many are there, ${counts.join(' or ')}? One count is enough: ${counts[0]} ${name}`)
  const record = {
    name, kind: kind ?? 'event', role, count: counts[0] ?? 1, yields, takes, requires, respawns, minutes, caps: [],
  } satisfies Omit<RecordOf['source'], 'id'>
  const parts = [kind ?? 'source', sourceText(record), role, ...(minutes ? [`${minutes} min`] : [])]
  return { kind: 'source', record, says: parts.join(' · ') }
}

/** `Salt sacks weighed 2 × 35 renown`, as its row shows it. */
function countBefore(words: readonly string[], at: number, from: number): number | null {
  return at - 2 > from && words[at - 1] === '×' && /^\d+$/.test(words[at - 2]!) ? Number(words[at - 2]) : null
}

/** `hares 20 renown × 12`. */
function countBehind(words: readonly string[]): number | null {
  const match = /^[x×] ?(\d+)$/i.exec(words.join(' '))
  return match ? Number(match[1]) : null
}
