import { assert } from 'chai'
import { parse } from './parse.ts'
import { direction, type Direction } from './rising.ts'

/** What docs/model.md 6 says of each kind of part; the second: where a character is still to join. */
const cases: Record<string, Direction | [Direction, Direction]> = {
  // Names, and what counts up.
  'stamps': 'rising', 'level': 'rising', 'cap': 'rising', 'level(courier) >= 2': 'rising', 'cap(courier) >= 2': 'rising',
  'open(ferry_gate)': 'rising', 'visited(landing)': 'rising', 'taken(round) >= 2': 'rising', 'highest(level) >= 3': 'rising',
  'lowest(level) >= 2': ['rising', 'mixed'], 'average(level) >= 2': ['rising', 'mixed'], 'stamps >= 2 or lowest(level) >= 2': ['rising', 'mixed'],
  // Comparisons do what left − right does, or the other way round.
  'level >= 3': 'rising', 'level > 3': 'rising', '3 <= level': 'rising', '3 < level': 'rising', 'level <= 3': 'falling', 'level < 3': 'falling', '3 >= level': 'falling', '3 > level': 'falling',
  'stamps >= level': 'mixed', 'stamps - level >= 0': 'mixed', 'level == 3': 'mixed', 'level != 3': 'mixed', '1 == 1': 'constant', '1 + 1 != 2': 'constant',
  // Turned round by not and by a minus.
  'not level < 3': 'rising', 'not level >= 3': 'falling', 'not level == 3': 'mixed', 'not not whistle': 'rising', 'not whistle': 'falling', '-stamps >= -4': 'falling', '4 - stamps > 0': 'falling', '0 - -stamps >= 3': 'rising', 'not (1 == 2)': 'constant',
  // Times a constant, or by one.
  '2 * stamps >= 8': 'rising', 'stamps * 2 >= 8': 'rising', 'stamps * -2 >= -8': 'falling', '(1 - 3) * stamps >= -8': 'falling', '0 * stamps >= 0': 'constant', 'stamps / 2 >= 4': 'rising', 'stamps / -2 >= -4': 'falling',
  '8 / stamps >= 2': 'mixed', 'stamps * level >= 4': 'mixed', 'stamps ^ 2 >= 4': 'mixed', '2 ^ stamps >= 4': 'mixed', 'stamps % 2 == 0': 'mixed', 'stamps % 2 >= 1': 'mixed', 'stamps / 0 >= 2': 'constant',
  // What parts share.
  'stamps + level >= 8': 'rising', 'stamps + 4 >= 8': 'rising', 'stamps + (0 - level) >= 0': 'mixed', '8 - stamps - level >= 0': 'falling',
  'level >= 2 and whistle': 'rising', 'level >= 2 and stamps < 3': 'mixed', 'level < 2 or stamps < 3': 'falling', 'level >= 2 and 1 == 1': 'rising', '1 and 2': 'constant',
  'at_least(2, whistle, level >= 2)': 'rising', 'at_least(1 + 1, whistle, level >= 2)': 'rising', 'at_least(stamps, whistle, level >= 2)': 'mixed', 'at_least(1, whistle, level < 2)': 'mixed', 'at_least(1, stamps < 2, level < 2)': 'falling',
  'min(stamps, level) >= 2': 'rising', 'max(stamps, 3) >= 2': 'rising', 'max(stamps, -level) >= 2': 'mixed', 'min(4, 2)': 'constant', 'max(whistle, level >= 2)': 'rising',
  // Arithmetic used as a truth.
  'stamps - 3': 'mixed', 'stamps + 1': 'mixed', '-stamps': 'mixed', 'not (stamps + 1)': 'mixed', '(stamps - 3) and whistle': 'mixed', '3 - 2': 'constant', 'max(stamps - 3, 0)': 'mixed', 'at_least(1, stamps * 2)': 'mixed',
}

describe('what more of everything does', () => {
  for (const [text, expected] of Object.entries(cases)) {
    const [whole, joining] = typeof expected === 'string' ? [expected, expected] : expected
    it(`to "${text}" is ${whole}${joining === whole ? '' : `, or ${joining} where someone joins`}`, () => {
      const tree = parse(text)!
      assert.deepEqual([direction(tree, false), direction(tree, true)], [whole, joining])
    })
  }
})
