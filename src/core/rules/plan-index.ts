import type { NamedKind, Vocabulary } from '../language/names.ts'
import { readText, type Reading } from '../language/requirement.ts'
import { kindNames, type KindName } from '../plan/kinds.ts'
import { remembered } from '../plan/remembered.ts'
import { contentsByPlace, inOrder, type Contents, type ItemRow, type Records, type Row } from '../plan/records.ts'
import type { RowChanges } from './row-changes.ts'

/** A plan's records in order, with the index of each id: made once, read by validation and compilation. */
export class PlanIndex {
  readonly contents: Contents
  /** By kind, each at its index. */
  readonly rows: { [K in KindName]: readonly Row<K>[] }
  /** Every way by a passage, as `from to`, and the places into which one leads. */
  private readonly joined = new Set<string>()
  private readonly entered = new Set<string>()
  private readonly readings = new Map<string, Reading>()
  private readonly byId = new Map<KindName, Map<string, number>>()
  /** Sources and gates that are new, or gone, since all were numbered. */
  private readonly late: Record<ItemRow['kind'], ReadonlyMap<string, number | undefined>> = { source: new Map(), gate: new Map() }

  constructor(readonly records: Records) {
    this.contents = contentsByPlace(records)
    const rows = Object.fromEntries(kindNames.map((kind) => [kind, inOrder(records, kind)])) as unknown as typeof this.rows
    rows.source = this.inOrder('source')
    rows.gate = this.inOrder('gate')
    this.rows = rows
    for (const kind of kindNames) this.byId.set(kind, indexById(rows[kind]))
    for (const { from, to, twoWay } of rows.passage) {
      this.addWay(from, to)
      if (twoWay) this.addWay(to, from)
    }
  }

  /**
   * The same plan with other records for some of its sources and gates, new ones behind all others, and without some: each keeps its
   * number, and that of one that is gone stands for nothing.
   */
  with(records: Records, { changed, added, removed }: RowChanges): PlanIndex {
    const rows = { ...this.rows, source: [...this.rows.source], gate: [...this.rows.gate] }
    for (const { kind, row } of changed) rows[kind][this.indexOf(kind, row.id)!] = row
    const late = { source: new Map(this.late.source), gate: new Map(this.late.gate) }
    for (const { kind, row } of removed) late[kind].set(row.id, undefined)
    for (const { kind, row } of added) {
      late[kind].set(row.id, rows[kind].length)
      ;(rows[kind] as Row[]).push(row)
    }
    // What was wrong with a text may be right by now, and the other way round.
    const readings = added.length + removed.length ? new Map() : this.readings
    return Object.assign(Object.create(PlanIndex.prototype) as PlanIndex, this, { records, rows, late, readings, contents: contentsByPlace(records) })
  }

  /** The index of the first record with this id; undefined when there is none. */
  indexOf(kind: KindName, id: string): number | undefined {
    if ((kind === 'source' || kind === 'gate') && this.late[kind].has(id)) return this.late[kind].get(id)
    return this.byId.get(kind)!.get(id)
  }

  /** The index of the place with this key. */
  placeWith(key: string): number {
    return this.rows.place.findIndex((place) => place.key === key)
  }

  *ids(kind: KindName): Iterable<string> {
    if (kind !== 'source' && kind !== 'gate') return yield* this.byId.get(kind)!.keys()
    const late = this.late[kind]
    for (const id of this.byId.get(kind)!.keys()) if (!late.has(id)) yield id
    for (const [id, i] of late) if (i !== undefined) yield id
  }

  get vocabulary(): Vocabulary {
    return {
      use: 'requirement',
      has: (kind: NamedKind, id: string) => this.indexOf(kind, id) !== undefined,
      ids: (kind: NamedKind) => this.ids(kind),
    }
  }

  /** A requirement's tree and errors; plans ask for the same again and again. */
  read(text: string): Reading {
    const known = this.readings.get(text) ?? readText(text, this.vocabulary)
    this.readings.set(text, known)
    return known
  }

  /** Whether a passage leads from one place to the other, or into the one at all. */
  leads(from: string, to: string): boolean {
    return this.joined.has(`${from} ${to}`)
  }
  leadsInto(to: string): boolean {
    return this.entered.has(to)
  }

  private addWay(from: string, to: string): void {
    this.joined.add(`${from} ${to}`)
    this.entered.add(to)
  }

  /** Records as a reader of the file meets them: sources and gates place by place, then anywhere. */
  inOrder<K extends KindName>(kind: K): readonly Row<K>[] {
    if (kind !== 'source' && kind !== 'gate') return inOrder(this.records, kind)
    const places: (string | null)[] = inOrder(this.records, 'place').map((place) => place.key)
    return [...places, null].flatMap((key) =>
      this.contents.get(key)!.flatMap((item) => (item.kind === kind ? [item.row as unknown as Row<K>] : [])),
    )
  }
}

/** The names that a plan's requirements may use; each kind is put in order when one of it is asked for. */
export function vocabularyOf(records: Records): Vocabulary {
  return { use: 'requirement', has: (kind, id) => idsOf(records, kind).has(id), ids: (kind) => idsOf(records, kind).keys() }
}

const idsKnown = new WeakMap<object, ReadonlyMap<string, number>>()

function idsOf(records: Records, kind: KindName): ReadonlyMap<string, number> {
  return remembered(idsKnown, records[kind], () => indexById(inOrder(records, kind)))
}

function indexById(rows: readonly { id: string }[]): Map<string, number> {
  const index = new Map<string, number>()
  rows.forEach((row, i) => {
    if (!index.has(row.id)) index.set(row.id, i)
  })
  return index
}
