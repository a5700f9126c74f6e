import { plainTally } from '../change/missing-tally.ts'
import { freeSlug, slugFrom } from '../change/slug.ts'
import type { Vocabulary } from '../language/names.ts'
import { reservedWords } from '../language/words.ts'
import { name as isName } from '../plan/basics.ts'
import type { Place } from '../plan/place.ts'
import type { Tally } from '../plan/tally.ts'
import type { EntryContext } from './entry-line.ts'
import { isAmountAlone } from './gives.ts'
import type { PastedTable } from './paste.ts'
import { roleOfHeading } from './table-columns.ts'

/** What a pasted table names that the plan does not have yet: places and tallies that may be added with it. */

export function placeOf(text: string, { places }: EntryContext): { id: string; name: string } | undefined {
  const wanted = text.trim().toLowerCase()
  return places.find(({ id, name }) => id === wanted || name.toLowerCase() === wanted)
}

/** The names in a table's column of places that no place has, in their order. */
export function placesToCome({ rows, roles }: PastedTable, context: EntryContext): string[] {
  const column = roles.indexOf('place')
  const names = new Map<string, string>()
  for (const { [column]: name = '' } of rows) if (!names.has(name.toLowerCase())) names.set(name.toLowerCase(), name)
  return [...names.values()].filter((name) => canBeCalled(name) && placeOf(name, context) === undefined)
}

function canBeCalled(name: string): boolean {
  return slugFrom(name) !== '' && isName.safeParse(name).success
}

/** Columns of amounts whose heading says nothing: it may be the name of a tally that is not there yet. */
export function talliesToCome({ headings, rows, roles }: PastedTable): { column: number; name: string }[] {
  return (headings ?? []).flatMap((name, column) => {
    const cells = rows.map((row) => (row[column] ?? '').trim()).filter(Boolean)
    const isMeant = roles[column] === 'ignore' && roleOfHeading(name, []) === null && canBeCalled(name)
    return isMeant && cells.length > 0 && cells.every(isAmountAlone) ? [{ column, name }] : []
  })
}

/** The same table with those columns read as amounts of tallies that are added. */
export function withTallies(table: PastedTable, { tallies: known }: EntryContext): PastedTable {
  const [roles, tallies] = [[...table.roles], [...table.tallies]]
  for (const { column, name } of talliesToCome(table)) {
    const id = freeTallyId(name, [...known, ...tallies])
    tallies.push({ id, ...plainTally(name, 'collectible') })
    roles[column] = `tally ${id}`
  }
  return { ...table, roles, tallies }
}

function freeTallyId(name: string, taken: readonly { id: string }[]): string {
  return freeSlug(name, new Set([...taken.map(({ id }) => id), ...reservedWords]))
}

/** What is added beside the rows, as they come to name it; the rows after it may name it, too. */
export class Additions {
  readonly places: Place[] = []
  readonly tallies: Tally[]
  readonly #given: EntryContext
  #context: EntryContext | null = null

  constructor(given: EntryContext, tallies: readonly Tally[]) {
    this.#given = given
    this.tallies = [...tallies]
  }

  /** What the next row may name. */
  get context(): EntryContext {
    const { places, tallies, vocabulary } = this.#given
    this.#context ??= { ...this.#given, places: [...places, ...this.places], tallies: [...tallies, ...this.tallies], vocabulary: vocabularyWith(vocabulary, this.tallies) }
    return this.#context
  }

  addPlace(place: Omit<Place, 'id'>): string {
    const id = freeSlug(place.name, new Set(this.context.places.map((one) => one.id)))
    this.places.push({ ...place, id })
    this.#context = null
    return id
  }

  addTally(tally: Omit<Tally, 'id'>): string {
    const id = freeTallyId(tally.name, this.context.tallies)
    this.tallies.push({ ...tally, id })
    this.#context = null
    return id
  }

  /** Takes back the tallies after the first so many. */
  leaveTallies(most: number): void {
    this.tallies.splice(most)
    this.#context = null
  }
}

/** The names that a text may use once tallies have been added. */
function vocabularyWith(vocabulary: Vocabulary, tallies: readonly Tally[]): Vocabulary {
  const ids = new Set(tallies.map(({ id }) => id))
  return { ...vocabulary, has: (kind, id) => (kind === 'tally' && ids.has(id)) || vocabulary.has(kind, id), ids: (kind) => [...vocabulary.ids(kind), ...(kind === 'tally' ? ids : [])] }
}
