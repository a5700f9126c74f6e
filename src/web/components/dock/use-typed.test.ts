import { assert } from 'chai'
import { useTyped } from './use-typed.ts'

function field(begins: string) {
  const editor = { text: begins }
  return { editor, typed: useTyped(begins, { read: () => editor.text, write: (text) => (editor.text = text) }) }
}

describe('what is typed into a field', () => {
  it('is what differs from what stands in the record', () => {
    const { editor, typed } = field('level >= 2')
    assert.isFalse(typed.isTyped())
    editor.text = 'level >= 3'
    assert.isTrue(typed.isTyped())
    typed.taken()
    assert.isFalse(typed.isTyped())
  })

  it('stays when somebody else changes the record, whose value is told', () => {
    const { editor, typed } = field('4')
    editor.text = '7'
    typed.stands('5')
    assert.deepEqual([editor.text, typed.elsewhere.value, typed.isTyped()], ['7', '5', true])
    typed.leave()
    assert.deepEqual([editor.text, typed.elsewhere.value, typed.isTyped()], ['5', null, false])
  })

  it('is followed by what comes of it, and by others where nothing is typed', () => {
    const { editor, typed } = field('4')
    typed.stands('5')
    assert.deepEqual([editor.text, typed.elsewhere.value], ['5', null])
    editor.text = '6'
    typed.stands('6')
    assert.deepEqual([editor.text, typed.elsewhere.value, typed.isTyped()], ['6', null, false])
  })

  it('is put over another value when it is taken', () => {
    const { editor, typed } = field('4')
    editor.text = '7'
    typed.stands('5')
    typed.taken()
    typed.stands('7')
    assert.deepEqual([editor.text, typed.elsewhere.value, typed.isTyped()], ['7', null, false])
  })

  it('begins anew with another record', () => {
    const { editor, typed } = field('4')
    editor.text = '7'
    typed.leave('12')
    assert.deepEqual([editor.text, typed.isTyped()], ['12', false])
  })

  it('is nothing before it is on the page', () => {
    const typed = useTyped('4', { read: () => null, write: () => {} })
    typed.stands('5')
    assert.deepEqual([typed.isTyped(), typed.elsewhere.value], [false, null])
  })
})
