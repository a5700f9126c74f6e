import { assert } from 'chai'
import fc from 'fast-check'
import { plainArithmetic } from './arithmetic.ts'
import { complete } from './complete.ts'
import { prepare } from './evaluate.ts'
import { LanguageError } from './language-error.ts'
import { formulaVocabulary, mentions, type Vocabulary } from './names.ts'
import { operators } from './operators.ts'
import { parse, type Node } from './parse.ts'
import { print } from './print.ts'
import { readText } from './requirement.ts'
import { direction } from './rising.ts'
import { reservedWords } from './words.ts'

const ids = { tally: ['stamps', 'lamp_glass', 'whistle'], character: ['courier', 'bracken'], gate: ['ferry_gate'], place: ['landing'], source: ['round'] }
const vocabulary: Vocabulary = { use: 'requirement', has: (kind, id) => ids[kind].includes(id), ids: (kind) => ids[kind] }

function errorOf(text: string, use: Vocabulary = vocabulary) {
  const { errors } = readText(text, use)
  return errors[0] ? { code: errors[0].code, column: errors[0].column, fits: errors[0].fits } : null
}

/** The value of a text with a few named amounts. */
function value(text: string, amounts: Record<string, number> = {}): number {
  return prepare<null, number>(parse(text)!, plainArithmetic, (node) => () => amounts[node.name] ?? 0)(null)
}

/** A tree as it counts: without where it stood in the text. */
function shape(node: Node): unknown {
  return JSON.parse(JSON.stringify(node, (key, part) => (['from', 'to', 'inner', 'nameSpan'].includes(key) ? undefined : (part as unknown))))
}

const anyText = fc.array(fc.constantFrom('level', 'stamps', '>=', '3', '(', ')', 'and', 'or', 'not', '-', '^', '%', ',', 'open(ferry_gate)', 'min', '1e3', '#', '0.5', '=', ' '), { maxLength: 40 }).map((parts) => parts.join(' '))

const anyTree: fc.Arbitrary<string> = fc.letrec<{ any: string }>((tie) => ({
  any: fc.oneof(
    { maxDepth: 5 },
    fc.constantFrom('1', '2.5', 'stamps', 'level', 'whistle', 'open(ferry_gate)', 'taken(round)', 'lowest(level)'),
    fc.tuple(tie('any'), fc.constantFrom(...Object.keys(operators.binary)), tie('any')).map(([a, op, b]) => `(${a}) ${op} (${b})`),
    tie('any').map((a) => `not (${a})`),
    tie('any').map((a) => `-(${a})`),
    fc.array(tie('any'), { minLength: 2, maxLength: 3 }).map((args) => `at_least(${args.join(', ')})`),
  ),
})).any

describe('the language', () => {
  it('binds as the grammar has it', () => {
    assert.equal(value('2 + 3 * 2 ^ 2'), 14)
    assert.equal(value('-2 ^ 2'), -4)
    assert.equal(value('2 ^ 3 ^ 2'), 512)
    assert.equal(value('10 - 3 - 2'), 5)
    assert.equal(value('-7 % 3'), 2)
    assert.equal(value('not 1 == 2'), 1)
    assert.equal(value('1 or 0 and 0'), 1)
  })

  it('counts numbers within 1e-9 as equal', () => {
    assert.equal(value('0.1 + 0.2 == 0.3'), 1)
    assert.equal(value('0.1 + 0.2 > 0.3'), 0)
    assert.equal(value('not (0.1 + 0.2 - 0.3)'), 1)
    assert.equal(value('0.3 % 0.1 == 0'), 1)
  })

  it('does not evaluate what "and" and "or" need not', () => {
    assert.equal(value('stamps == 0 or 10 / stamps > 2', { stamps: 0 }), 1)
    assert.equal(value('stamps > 0 and 10 / stamps > 2', { stamps: 0 }), 0)
    assert.throws(() => value('10 / stamps', { stamps: 0 }), LanguageError)
  })

  it('says the column and what would fit', () => {
    assert.deepEqual(errorOf('level >= 3 and stmaps'), { code: 'unknown-name', column: 16, fits: ['stamps'] })
    assert.deepEqual(errorOf('open(ferry)'), { code: 'unknown-name', column: 6, fits: ['ferry_gate'] })
    assert.equal(errorOf('level >= 3 whistle')?.code, 'left-over')
    assert.deepEqual(errorOf('level >='), { code: 'expected', column: 9, fits: [] })
    assert.equal(errorOf('level > $')?.code, 'bad-character')
    assert.equal(errorOf('at_least(2)')?.code, 'arguments')
    assert.equal(errorOf('floor(level)')?.code, 'wrong-use')
    assert.equal(errorOf('highest(stamps)')?.code, 'expected')
    assert.equal(errorOf('opne(ferry_gate)')?.fits[0], 'open')
    assert.equal(errorOf('prev * 1.2 + 15 * L', formulaVocabulary), null)
    assert.equal(errorOf('stamps', formulaVocabulary)?.code, 'unknown-name')
    assert.equal(errorOf('1 < 2 < 3')?.code, 'left-over')
  })

  it('says what of a text it cannot read, at which column', () => {
    const faults: [string, string, number][] = [
      ['level >= 3 &', 'bad-character', 12], ['"level" > 2', 'bad-character', 1], ['3 = level', 'bad-character', 3], ['level > .5', 'bad-character', 9],
      ['(level >= 3', 'expected', 12], ['level >= 3)', 'left-over', 11], ['and level', 'expected', 1], ['level or', 'expected', 9], ['not', 'expected', 4], ['()', 'expected', 2],
      ['min(1,)', 'expected', 7], ['min(1 2)', 'expected', 7], ['level(courier', 'expected', 14], ['2 stamps', 'left-over', 3], ['level >= 3 whistle', 'left-over', 12], ['1 <= level <= 3', 'left-over', 12],
    ]
    for (const [text, code, column] of faults) assert.deepEqual([errorOf(text)?.code, errorOf(text)?.column], [code, column], text)
  })

  it('says what is wrong with a name or an argument, and which would fit', () => {
    const faults: [string, string, number, string[]][] = [
      ['Stamps >= 2', 'unknown-name', 1, ['stamps']], ['Level >= 2', 'unknown-name', 1, ['level']], ['level(curier) > 1', 'unknown-name', 7, ['courier']], ['visited(landnig)', 'unknown-name', 9, ['landing']],
      ['taken(ferry_gate)', 'unknown-name', 7, []], ['open(1)', 'argument-name', 6, []], ['open()', 'arguments', 1, []], ['open(ferry_gate, ferry_gate)', 'arguments', 1, []],
      ['at_least(1)', 'arguments', 1, []], ['lowest(2)', 'expected', 8, []], ['lowest', 'expected', 1, []], ['open >= 1', 'expected', 1, []],
      ['prev > 2', 'unknown-name', 1, []], ['sqrt(level) > 2', 'wrong-use', 1, []], ['exponent(2)', 'unknown-function', 1, []], ['averge(level) > 2', 'unknown-function', 1, ['average']],
    ]
    for (const [text, code, column, fits] of faults) assert.deepEqual(errorOf(text), { code, column, fits } as never, text)
  })

  it('tells every wrong name of a text, in the order written', () => {
    const { errors } = readText('stmaps > 1 and open(ferry) or level(dog) > 2', vocabulary)
    assert.deepEqual(errors.map(({ code, column }) => `${code} ${column}`), ['unknown-name 1', 'unknown-name 21', 'unknown-name 37'])
  })

  it('knows no leader in a plan without characters', () => {
    const bare: Vocabulary = { use: 'requirement', has: () => false, ids: () => [] }
    assert.deepEqual(['level >= 2', 'cap > 1', 'lowest(level) >= 0'].map((text) => errorOf(text, bare)?.code), ['no-leader', 'no-leader', undefined])
  })

  it('reads numbers as people write them', () => {
    const read: [string, number][] = [['007', 7], ['12.50', 12.5], ['1e3', 1000], ['2.5e-1', 0.25], ['1E+2', 100], ['--3', 3], ['2^-1', 0.5], ['-2^-2', -0.25], ['1.5%1', 0.5], ['-1.5 % 1', 0.5], ['5 % -3', -1]]
    for (const [text, number] of read) assert.equal(value(text), number, text)
  })

  it('counts as equal what differs by less than 1e-9 of the larger, and as true what is not 0', () => {
    const truths: [string, number][] = [
      ['1000000000 == 1000000000.5', 1], ['1000000000 == 1000000002', 0], ['1 == 1.0000000005', 1], ['1 == 1.000000002', 0], ['0 == 0.0000000005', 1], ['3 >= 3.0000000001', 1], ['3 > 2.9999999999', 0], ['3 != 3.0000000001', 0],
      ['not 0.0000000001', 1], ['not -1', 0], ['-1 and 1', 1], ['0 or 0.5', 1], ['at_least(2, 1, 0, 5)', 1], ['at_least(3, 1, 0, 5)', 0], ['at_least(0, 0)', 1],
    ]
    for (const [text, truth] of truths) assert.equal(value(text), truth, text)
  })

  it('fails where a value is none: by zero, too large, a root of what is below 0', () => {
    for (const text of ['1 / 0', '1 % 0', '1 / (0.1 + 0.2 - 0.3)', '10 ^ 400', '(0 - 1) ^ 0.5', 'not 1 / 0', 'min(1, 1 / 0)']) assert.throws(() => value(text), LanguageError, undefined, text)
  })

  it('takes white space and comments anywhere, and an empty text', () => {
    assert.equal(parse('  # nothing asked\n'), null)
    assert.equal(value('1 + # one\n 2'), 3)
  })

  it('is at most 2,000 characters long and 100 deep', () => {
    assert.equal(errorOf('1+'.repeat(1000) + '1')?.code, 'too-long')
    assert.equal(errorOf('('.repeat(101) + '1' + ')'.repeat(101))?.code, 'too-deep')
    assert.equal(errorOf('('.repeat(100) + '1' + ')'.repeat(100)), null)
  })

  it('never fails in any other way than with its own error', () => {
    fc.assert(fc.property(fc.oneof(anyText, fc.string({ maxLength: 60 })), (text) => {
      readText(text, vocabulary)
    }))
  })

  it('prints back what it read', () => {
    fc.assert(fc.property(anyTree, (text) => {
      if (text.length > 2000) return
      const tree = parse(text)!
      assert.deepEqual(shape(parse(print(tree))!), shape(tree), print(tree))
    }))
  })

  it('a rising requirement stays true with more', () => {
    fc.assert(fc.property(anyTree, fc.nat(9), fc.nat(9), fc.nat(9), (text, stamps, level, more) => {
      if (text.length > 2000 || direction(parse(text)!, false) !== 'rising') return
      const read = (amounts: Record<string, number>) => {
        try {
          return value(text, amounts) !== 0
        } catch {
          return null
        }
      }
      const before = read({ stamps, level, open: 0, taken: stamps, lowest: level, whistle: 0 })
      const after = read({ stamps: stamps + more, level: level + more, open: 1, taken: stamps + more, lowest: level + more, whistle: 1 })
      if (before === true && after !== null) assert.isTrue(after, text)
    }))
  })

  it('finds what a text mentions, and completes what is typed', () => {
    assert.deepEqual(mentions(parse('level(bracken) >= 2 and open(ferry_gate) and stamps >= 1 and level > 1')!).map((m) => `${m.kind} ${m.id}`), ['character bracken', 'gate ferry_gate', 'tally stamps'])
    assert.deepEqual(complete('level >= 2 and open(fe', 22, vocabulary), { from: 20, options: [{ label: 'ferry_gate', detail: 'gate', insert: 'ferry_gate' }] })
    assert.include(complete('st', 2, vocabulary).options.map((o) => o.label), 'stamps')
  })

  it('keeps its words from being tallies', () => {
    for (const word of ['level', 'and', 'at_least', 'prev', 'floor', 'open']) assert.isTrue(reservedWords.has(word), word)
    for (const name of Object.keys(operators.functions)) assert.isTrue(reservedWords.has(name), name)
  })
})
