import { readFileSync } from 'node:fs'
import { assert } from 'chai'
import { readPlan } from '../../../core/plan/file.ts'
import { kindEntry, kindNames, type KindName } from '../../../core/plan/kinds.ts'
import { inOrder } from '../../../core/plan/records.ts'
import { fieldTable, type FieldEntry } from './field-table.ts'

const read = readPlan(readFileSync(new URL('../../../../demo/lamplight_post.tundrift.json', import.meta.url), 'utf8'))
if (!read.ok) throw new Error('the demo is no plan')
const { records } = read

/** What is edited elsewhere: a walk is played, not typed. */
const elsewhere: Partial<Record<KindName, readonly string[]>> = { walk: ['from', 'steps'] }

const entries = kindNames.flatMap((kind) => fieldTable[kind].map((entry) => ({ kind, entry, name: `${kind}.${entry.field}` })))

/** A list of the demo plan's own values of a field that has any. */
function valuesOf(kind: KindName, { field }: FieldEntry): unknown[][] {
  return (inOrder(records, kind) as unknown as Record<string, unknown[] | undefined>[]).flatMap((row) => (row[field]?.length ? [row[field]] : []))
}

describe('the fields of the dock', () => {
  it('are all that a record of each kind has', () => {
    for (const kind of kindNames) {
      const shown = [...fieldTable[kind].map(({ field }) => field), ...(elsewhere[kind] ?? [])]
      assert.sameMembers(shown, Object.keys(kindEntry(kind).fields), kind)
      assert.equal(new Set(shown).size, shown.length, kind)
    }
  })

  it('offer what fits, and all of it', () => {
    for (const { kind, entry, name } of entries) {
      if (entry.control !== 'select') continue
      const fits = (value: unknown) => kindEntry(kind).fields[entry.field]!.safeParse(value).success
      for (const option of entry.options) assert.isTrue(fits(entry.field === 'respawns' ? option === 'true' : option), `${name}: ${option}`)
      assert.isFalse(fits('none of these'), name)
    }
  })

  it('name records of the kind that is meant', () => {
    for (const { kind, entry, name } of entries) {
      if (entry.control === 'ref') assert.equal(kindEntry(kind).refs[entry.field], entry.kind, name)
    }
  })

  it('have a requirement where the record has one', () => {
    for (const { kind, entry, name } of entries) assert.equal(entry.control === 'requirement', kindEntry(kind).texts.includes(entry.field), name)
  })

  it('can be left empty where the record can do without', () => {
    for (const { kind, entry, name } of entries) {
      const isNullable = ('nullable' in entry && entry.nullable !== undefined) || entry.control === 'guards'
      if (entry.control !== 'ref' && entry.control !== 'number' && entry.control !== 'guards') continue
      const fits = (value: unknown) => kindEntry(kind).fields[entry.field]!.safeParse(value).success
      // A pattern that is not there is left out.
      if (entry.field !== 'pattern') assert.equal(isNullable, fits(null), name)
    }
  })

  it('read back the lists that they show, and say what is wrong in others', () => {
    const context = { tallies: inOrder(records, 'tally'), characters: inOrder(records, 'character') }
    let seen = 0
    for (const { kind, entry, name } of entries) {
      if (entry.control !== 'lines') continue
      for (const value of valuesOf(kind, entry)) {
        const again = entry.format.read(entry.format.print(value as never[]), context)
        assert.deepEqual(again, { ok: true, value: value as never[] }, name)
        seen++
      }
      const wrong = entry.format.read('?? ??', context)
      assert.isFalse(wrong.ok, name)
      assert.isTrue(entry.format.read('', context).ok, name)
    }
    assert.isAbove(seen, 50)
  })

  it('say by an example how a list is written', () => {
    for (const { entry, name } of entries) if (entry.control === 'lines') assert.isNotEmpty(entry.format.example, name)
  })
})
