import { mentions } from '../language/names.ts'
import { readText } from '../language/requirement.ts'
import type { IssueCode, ItemRef, Path, PlanIssue } from '../plan/issue.ts'
import { kindEntry, kindNames, type KindName } from '../plan/kinds.ts'
import { nearest } from '../plan/nearest.ts'
import type { Records, Row } from '../plan/records.ts'
import { eachReference, eachText, type Told } from '../plan/references.ts'
import { wholeSource } from '../plan/source.ts'
import type { Yield } from '../plan/yield.ts'
import { curveValues } from './curve-values.ts'
import { PlanIndex } from './plan-index.ts'

type Details = Partial<Pick<PlanIssue, 'column' | 'fits' | 'params'>>
type Report = (code: IssueCode, path: Path, details?: Details) => void

/** Everything wrong with what a plan says, though its shape is right: it can be held, shown and mended all the same. */
export function validate(records: Records, index = new PlanIndex(records)): PlanIssue[] {
  const issues: PlanIssue[] = []
  checkHead(index, issues)
  for (const kind of kindNames) {
    const check = new KindCheck(index, kind, issues)
    const seen = new Set<string>()
    for (const row of index.rows[kind]) {
      check.of(row, seen.has(row.id))
      seen.add(row.id)
    }
  }
  checkLiveRings(index, issues)
  return issues
}

/** What is wrong with one record, beside what others are needed for to tell: an id that is there twice, a ring of live gates. */
export function issuesOfRow(index: PlanIndex, kind: KindName, row: Row): PlanIssue[] {
  const issues: PlanIssue[] = []
  new KindCheck(index, kind, issues).of(row, false)
  return issues
}

/** Finds what is wrong with records of one kind, one after another: there are many, and little is. */
class KindCheck {
  private row!: Row
  private readonly entry: { loose?: boolean; word: string }
  private readonly meaning: ((index: PlanIndex, row: Row, report: Report) => void) | undefined

  constructor(
    private readonly index: PlanIndex,
    private readonly kind: KindName,
    private readonly issues: PlanIssue[],
  ) {
    this.entry = kindEntry(kind)
    this.meaning = meanings[kind] as typeof this.meaning
  }

  /** `isTwin`: whether another had its id before. */
  of(row: Row, isTwin: boolean): void {
    const { index, kind, entry } = this
    this.row = row
    if (isTwin) this.report('duplicate-id', ['id'], { params: { id: row.id, kind: entry.word } })
    if (!entry.loose) {
      eachReference(kind, row, this.checkReference)
      eachText(kind, row, this.checkText)
    }
    this.meaning?.(index, row, this.report)
  }

  private readonly report: Report = (code, path, details) => {
    const { kind, row: { key, id } } = this
    reporter(this.issues, { kind, key, id })(code, path, details)
  }

  private readonly checkReference: Told = (id, { named, path }) => {
    const { index } = this
    if (index.indexOf(named!, id) === undefined) this.report('unknown-reference', path(), { params: { kind: named!, id }, fits: nearest(id, index.ids(named!)) })
  }

  private readonly checkText: Told = (text, { path }) => {
    for (const error of this.index.read(text).errors) {
      this.report('requirement', path(), { column: error.column, fits: error.fits, params: { message: error.message } })
    }
  }
}

function reporter(issues: PlanIssue[], item: ItemRef): Report {
  return (code, path, details = {}) => issues.push({ code, fatal: false, item, path, params: {}, ...details })
}

function checkHead(index: PlanIndex, issues: PlanIssue[]): void {
  const { id, start } = index.records.head
  // A plan without places is only begun: what it lacks is offered, not held against it.
  if (index.rows.place.length === 0 || index.indexOf('place', start) !== undefined) return
  const report = reporter(issues, { kind: 'head', key: 'head', id })
  report('unknown-reference', ['start'], { params: { kind: 'place', id: start }, fits: nearest(start, index.ids('place')) })
}

/** What each kind has to make sure of beyond references and texts. */
const meanings: { [K in KindName]?: (index: PlanIndex, row: Row<K>, report: Report) => void } = {
  tally: (_, row, report) => {
    const [min, max] = [row.min ?? -Infinity, row.max ?? Infinity]
    if (min > max) report('clamp-order', ['min'], { params: { min, max } })
    else if (row.start < min || row.start > max) {
      report('start-outside', ['start'], { params: { start: row.start, min: row.min ?? 'no least', max: row.max ?? 'no greatest' } })
    }
  },
  curve: (_, row, report) => {
    for (const fault of curveValues(row).faults) {
      const { level, message, column } = fault
      if (fault.code === 'formula') report('curve-formula', ['rule', 'text'], { params: { level, message }, ...(column ? { column } : {}) })
      else if (fault.code === 'limits') report('curve-limits', ['maxLevel'], { params: { message } })
      else if (fault.code === 'length') report('curve-limits', ['rule', 'values'], { params: { message } })
      else report('curve-value', ['rule'], { params: { level, value: message, need: 'values are above 0, and totals rise' } })
    }
  },
  character: checkCharacter,
  pattern: (index, row, report) => checkYields(index, row.yields ?? [], report),
  passage: (_, row, report) => {
    if (row.from === row.to) report('passage-to-itself', ['to'], { params: { id: row.from } })
  },
  source: (index, row, report) => {
    const pattern = row.pattern === undefined ? undefined : index.rows.pattern[index.indexOf('pattern', row.pattern) ?? -1]
    checkYields(index, wholeSource(row, pattern).yields, report)
  },
  gate: (index, row, report) => {
    checkYields(index, row.yields, report)
    if (row.stays === 'live' && (row.costs.length || row.yields.length || row.caps.length)) report('live-gate-pays', ['stays'])
    if (row.guards?.place !== undefined && !index.leadsInto(row.guards.place)) {
      report('guards-nowhere', ['guards', 'place'], { params: { id: row.guards.place } })
    }
  },
  route: (index, row, report) => {
    if (row.stops.length === 0 && index.rows.place.length > 0) report('no-stops', ['stops'])
    row.stops.slice(1).forEach((to, i) => {
      const from = row.stops[i]!
      if (!index.leads(from, to)) report('stops-not-joined', ['stops', i + 1], { params: { from, to } })
    })
  },
}

function checkYields(index: PlanIndex, yields: readonly Yield[], report: Report): void {
  yields.forEach((y, i) => {
    const tally = index.rows.tally[index.indexOf('tally', y.tally) ?? -1]
    if (tally?.kind === 'experience' && y.min < 0) report('negative-experience', ['yields', i, 'min'], { params: { id: y.tally } })
  })
}

function checkCharacter(index: PlanIndex, row: Row<'character'>, report: Report): void {
  const tally = index.rows.tally[index.indexOf('tally', row.experience) ?? -1]
  if (tally && tally.kind !== 'experience') report('experience-kind', ['experience'], { params: { id: tally.id, kind: tally.kind } })
  const curve = index.rows.curve[index.indexOf('curve', row.curve) ?? -1]
  if (!curve) return
  const range = { first: curve.firstLevel, last: curve.maxLevel }
  const outside = (level: number) => level < range.first || level > range.last
  if (row.startLevel !== null && outside(row.startLevel)) report('start-level', ['startLevel'], { params: { level: row.startLevel, ...range } })
  row.rewards.forEach((reward, i) => {
    if (reward.level !== 'every' && outside(reward.level)) report('level-outside', ['rewards', i, 'level'], { params: { level: reward.level, ...range } })
    checkYields(index, reward.yields, (code, path, details) => report(code, ['rewards', i, ...path], details))
  })
  row.forms.forEach((form, i) => {
    if (form.from > form.to) report('form-order', ['forms', i, 'to'], { params: { from: form.from, to: form.to } })
  })
}

/** Live gates that name each other in a ring are all in error (docs/model.md 5). */
function checkLiveRings(index: PlanIndex, issues: PlanIssue[]): void {
  const gates = index.rows.gate
  const names = new Map<number, number[]>()
  gates.forEach((gate, g) => {
    if (gate.stays === 'live') names.set(g, liveGatesNamed(index, gate.requires))
  })
  for (const [g] of names) {
    const ring = ringThrough(g, names)
    if (!ring) continue
    const { key, id } = gates[g]!
    const text = [...ring, g].map((at) => gates[at]!.id).join(' → ')
    reporter(issues, { kind: 'gate', key, id })('live-ring', ['requires'], { params: { ring: text } })
  }
}

function liveGatesNamed(index: PlanIndex, text: string): number[] {
  const { node } = readText(text, index.vocabulary)
  const named = node ? mentions(node).filter((mention) => mention.kind === 'gate') : []
  return named.map((mention) => index.indexOf('gate', mention.id)).filter((g): g is number => g !== undefined && index.rows.gate[g]!.stays === 'live')
}

/** The shortest way from a node back to itself, or null. */
export function ringThrough(start: number, next: ReadonlyMap<number, readonly number[]>): number[] | null {
  const cameFrom = new Map<number, number>()
  const queue = [start]
  for (const at of queue) {
    for (const to of next.get(at) ?? []) {
      if (to === start) return wayBack(at, start, cameFrom)
      if (cameFrom.has(to)) continue
      cameFrom.set(to, at)
      queue.push(to)
    }
  }
  return null
}

function wayBack(from: number, start: number, cameFrom: ReadonlyMap<number, number>): number[] {
  const way = [from]
  for (let at = from; at !== start; ) {
    at = cameFrom.get(at)!
    way.unshift(at)
  }
  return way
}
