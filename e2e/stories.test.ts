import { spawnSync } from 'node:child_process'
import { assert } from 'chai'
import { Key } from 'selenium-webdriver'
import type { CheckResult } from '../src/core/check/result.ts'
import { stage } from './stage.ts'

describe('a designer', () => {
  const { server, page } = stage()

  /** An empty plan with a level curve, as the first steps offer it. */
  async function begin(name: string): Promise<void> {
    await page.newPlan(server.url, name)
    await page.fill('first-base', '100')
    await page.fill('first-factor', '1.2')
    await page.fill('first-add', '10')
    await page.fill('first-place', 'Harbour Depot')
    await page.click('begin')
    await page.find('sheet')
  }

  it('types a plan, sees a gate short by a number, raises a source until it is clear, and undoes it', async () => {
    await begin('The short road')
    await page.enter('First round 60 renown')
    await page.enter('place Saltpan Flats 9 min')
    await page.enter('6 drifts 30 renown')
    await page.enter('place Gull Stair')
    await page.enter('4 lamps 20 renown')
    await page.enter('9 frost wisps 10 renown enemy side')
    await page.enter('door Stair gate level >= 4')
    // 60 + 180 + 80 = 320 renown; rank 4 takes 100 + 130 + 166 = 396.
    await page.rowShows('Stair gate', /−1$/)
    await page.shows('counts', /^1 short$/)
    await page.shows('short by', /76 renown/)
    await page.shows('why', /8 more of frost wisps at Gull Stair \(not taken so far\)/)
    assert.equal(await page.text('total renown'), '320')
    await page.edit('drifts', 'asks', '6 × 43 renown')
    await page.rowShows('Stair gate', /0$/)
    await page.shows('counts', /^1 clear$/)
    await page.saved()
    await page.press(Key.ESCAPE)
    await page.chord(Key.CONTROL, 'z')
    await page.rowShows('drifts', /6 × 30 renown/)
    await page.rowShows('Stair gate', /−1$/)
    await page.chord(Key.CONTROL, 'z')
    await page.eventually(async () => (await page.rowCount()) === 7, 'the gate to be gone')
    await page.saved()
    await page.driver.navigate().refresh()
    await page.rowShows('drifts', /6 × 30 renown/)
    assert.equal(await page.rowCount(), 7)
    // What was undone before the reload can be redone after it.
    await page.click('redo')
    await page.rowShows('Stair gate', /−1$/)
    assert.deepEqual(await page.faults(), [])
  })

  it('reads in "why" the same sum as the lanes show and the command line prints', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    await page.shows('counts', /clear/)
    await (await page.find('sheet')).click()
    await page.press('n')
    const asked = await page.shows('why', /in all/)
    assert.match(asked, /Due/)
    const total = Number((await page.text('total renown')).replace(/,/g, ''))
    const name = await page.driver.findElement({ css: '[data-test="dock"] h2' }).getText()
    const printed = spawnSync(process.execPath, ['dist/tundrift.js', 'check', 'demo/lamplight_post.tundrift.json', '--route', 'main_line', '--profile', 'straight', '--format', 'json'], { encoding: 'utf8' })
    const { routes } = JSON.parse(printed.stdout) as CheckResult
    const gates = routes[0]!.profiles[0]!.gates
    const gate = gates.find((found) => found.gate === name.toLowerCase().replace(/[^a-z0-9]+/g, '_'))!
    const sum = gate.from.filter((entry) => entry.tally === 'renown').reduce((all, entry) => all + entry.total, 0)
    assert.equal(total, sum)
    const lane = await page.driver.findElements({ css: '.line.chosen path.path.wide' })
    assert.isNotEmpty(lane)
  })

  it('moves, doubles, deletes and renames rows by keyboard alone', async () => {
    await begin('By keyboard')
    await page.enter('one 10 renown')
    await page.enter('two 20 renown')
    await page.press(Key.ESCAPE)
    await page.chord(Key.ALT, Key.ARROW_UP)
    const order = async () => Promise.all((await page.driver.findElements({ css: '[role="row"] .cell.name' })).map((cell) => cell.getText()))
    await page.eventually(async () => (await order()).join() === 'Harbour Depot,two,one', 'two before one')
    await page.chord(Key.CONTROL, 'd')
    await page.eventually(async () => (await order()).join() === 'Harbour Depot,two,two,one', 'two twice')
    await page.press(Key.ENTER)
    await (await page.find('cell-editor')).sendKeys('three', Key.TAB)
    await (await page.find('cell-editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), '7 renown', Key.ENTER)
    await page.rowShows('three', /7 renown/)
    await page.press(Key.ARROW_DOWN, Key.DELETE)
    await page.eventually(async () => (await order()).join() === 'Harbour Depot,two,three', 'one gone')
    await page.press(Key.HOME, Key.ARROW_LEFT, Key.ARROW_LEFT)
    await page.eventually(async () => (await page.rowCount()) === 1, 'the place folded')
  })

  it('is told where a text is wrong, in place, and loses nothing', async () => {
    await begin('With mistakes')
    await page.enter('round 60 renown')
    await page.enter('door Hatch level >= 2')
    await (await page.cell('Hatch', 'asks')).click()
    await page.press(Key.ENTER)
    const editor = await page.find('cell-editor')
    await editor.sendKeys(Key.chord(Key.CONTROL, 'a'), 'levle >= 2', Key.ENTER)
    const says = await page.driver.findElement({ css: '.says' }).getText()
    assert.match(says, /column 1: "levle" is no tally.*did you mean level/)
    await editor.sendKeys(Key.ESCAPE)
    await page.rowShows('Hatch', /level >= 2/)
    await (await page.find('entry')).sendKeys('9 drifts 5 renwon')
    await page.shows('entry-hint', /"renwon" is no tally; there are: renown/)
  })

  it('adds a tally and renames it in the dock, and every requirement follows', async () => {
    await begin('In the dock')
    await page.enter('round 60 renown')
    await page.press(Key.ESCAPE)
    await page.chord(Key.CONTROL, 'k')
    await page.eventually(async () => (await page.driver.switchTo().activeElement().getAttribute('aria-label')) === 'Find a command', 'the field for commands')
    await page.press('tallies', Key.ENTER)
    await page.noDialog()
    await page.click('add tally')
    await page.fill('field name', 'Seals')
    await page.press(Key.TAB)
    await page.fill('field id', 'seals')
    await page.press(Key.ENTER)
    await page.enter('found 2 seals')
    await page.enter('door Row gate seals >= 2')
    await page.rowShows('Row gate', /seals >= 2/)
    await page.shows('counts', /1 clear/)
    // A requirement that is wrong is marked where it is, and kept as it was until it is right.
    const field = await page.find('field requires')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'seals >= 2 and levl > 1')
    await page.eventually(async () => (await page.driver.findElements({ css: '.cm-lintRange-error' })).length > 0, 'the mark under the error')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'sea')
    await page.eventually(async () => (await page.driver.findElement({ css: '.cm-tooltip-autocomplete' }).getText()).includes('seals'), 'the name that fits')
    await field.sendKeys(Key.ENTER, ' >= 2', Key.ENTER)
    await page.rowShows('Row gate', /seals >= 2/)
    await (await page.find('sheet')).click()
    await page.press(Key.ESCAPE)
    await (await page.driver.findElement({ xpath: '//aside//button[text()="Seals"]' })).click()
    await page.fill('field id', 'wax_seals')
    await page.press(Key.ENTER)
    await page.rowShows('Row gate', /wax_seals >= 2/)
    await page.rowShows('found', /2 wax_seals/)
    await page.saved()
    assert.deepEqual(await page.faults(), [])
  })

  it('goes on typing while the server is gone, and nothing is lost when it is back', async () => {
    await begin('The server goes')
    await page.enter('round 60 renown')
    await page.saved()
    assert.equal(await server.stop(), 0)
    await page.enter('second round 70 renown')
    await page.enter('third round 80 renown')
    await page.shows('save-state', /Server gone.*\(2\)/)
    await server.start()
    await page.saved()
    await page.driver.navigate().refresh()
    await page.rowShows('third round', /80 renown/)
    assert.equal(await page.rowCount(), 4)
  })

  it('sees another window follow, and chooses when both changed the same field', async () => {
    await begin('Two windows')
    await page.enter('round 60 renown')
    await page.saved()
    const first = await page.driver.getWindowHandle()
    const url = await page.driver.getCurrentUrl()
    await page.driver.switchTo().newWindow('window')
    await page.open(url)
    await page.rowShows('round', /60 renown/)
    await page.edit('round', 'asks', '65 renown')
    await page.saved()
    const second = await page.driver.getWindowHandle()
    await page.driver.switchTo().window(first)
    await page.rowShows('round', /65 renown/)
    // Both change the same cell while the server is gone: the one that comes second is asked.
    await server.stop()
    await page.edit('round', 'asks', '70 renown')
    await page.driver.switchTo().window(second)
    await page.edit('round', 'asks', '75 renown')
    await server.start()
    const clash = { css: '[aria-label="Changed in another window too"]' }
    const asked = await page.driver.wait(async () => {
      for (const handle of [first, second]) {
        await page.driver.switchTo().window(handle)
        const dialogs = await page.driver.findElements(clash)
        if (dialogs[0] && (await dialogs[0].isDisplayed())) return handle
      }
      return null
    }, 20_000)
    const mine = asked === first ? '70' : '75'
    const theirs = asked === first ? '75' : '70'
    const text = await page.driver.findElement(clash).getText()
    assert.match(text, new RegExp(`"min":${mine}[\\s\\S]*"min":${theirs}`))
    await (await page.driver.findElement({ xpath: '//button[text()="Put yours over it"]' })).click()
    await page.saved()
    await page.driver.switchTo().window(asked === first ? second! : first)
    await page.rowShows('round', new RegExp(`${mine} renown`))
    await page.driver.switchTo().window(second!)
    await page.driver.close()
    await page.driver.switchTo().window(first)
  })

  it('is told what is wrong with a plan that is not there', async () => {
    await page.open(`${server.url}plans/none`)
    await page.eventually(async () => /could not be opened[\s\S]*there is no plan/.test(await page.driver.findElement({ css: 'main' }).getText()), 'the message')
  })
})
