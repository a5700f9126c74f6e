import { assert } from 'chai'
import { History } from './history.ts'

const step = (kind: 'do' | 'undo' | 'redo', name: string) => ({ kind, diff: { name, changes: [] } })
const names = (history: History) => [history.undoable.map((diff) => diff.name), history.redoable.map((diff) => diff.name)]

describe('the history', () => {
  it('knows again what can be undone and redone from the steps alone', () => {
    const steps = [step('do', 'a'), step('do', 'b'), step('undo', 'b'), step('undo', 'a'), step('redo', 'a')]
    assert.deepEqual(names(History.of(steps)), [['a'], ['b']])
    assert.deepEqual(names(History.of([...steps, step('do', 'c')])), [['a', 'c'], []])
    assert.deepEqual(names(History.of([step('undo', 'x')])), [[], []])
  })
})
