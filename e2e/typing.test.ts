import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import { stage } from './stage.ts'

describe('a designer who types, and sees which verdicts it would turn', () => {
  const { server, page } = stage()
  const noTurns = () => page.eventually(async () => (await page.driver.findElements(By.css('[data-test="turns"]'))).length === 0, 'no verdict to be told of')

  it('types a threshold and an amount, and sees which verdicts they would turn before she takes them; Esc lets them be', async () => {
    await page.openPlan(server.url, 'Lamplight Post, early draft')
    const counts = await page.shows('counts', /short/)
    const type = async (row: string, text: string) => {
      await (await page.cell(row, 'asks')).click()
      await page.press(Key.ENTER)
      await (await page.find('cell-editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), text)
    }
    await type('Depot gate', 'level >= 4')
    await page.shows('turns', /^Depot gate\s+clear →\s+sealed$/)
    // What stands there is no change, and neither is what is not understood.
    await page.press(Key.BACK_SPACE, '2')
    await noTurns()
    await page.press(' and')
    await noTurns()
    await page.press(Key.ESCAPE)
    await type('First round', '600 renown, 3 stamps')
    await page.shows('turns', /Ferry gate\s+short →\s+clear\s+Hill ladder\s+short →\s+clear/)
    await page.press(Key.ESCAPE)
    assert.equal(await page.text('counts'), counts)
    await type('First round', '600 renown, 3 stamps')
    await page.press(Key.ENTER)
    await page.shows('counts', /33 clear/)
    await noTurns()
    // A line that is not there yet, too.
    await page.click('undo')
    await page.press('/')
    await page.press('14 drift hares 20 renown')
    await page.shows('turns', /Ferry gate\s+short →\s+clear/)
    await page.press(Key.ENTER)
    await noTurns()
    await page.press('door Far hatch level >= 30')
    await page.shows('turns', /^Far hatch\s+will be\s+sealed$/)
    await page.press(Key.ENTER)
    await page.rowShows('Far hatch', /level >= 30/)
  })

  it('sees the same under the fields of the dock', async () => {
    await page.newPlan(server.url, 'Weighed twice')
    await page.fill('first-place', 'Harbour Depot')
    await page.press(Key.ENTER)
    for (const line of ['First round 60 renown', 'door Depot gate level >= 2']) await page.enter(line)
    const counts = await page.shows('counts', /1 short|1 sealed/)
    const type = async (field: string, text: string) => (await page.find(field)).sendKeys(Key.chord(Key.CONTROL, 'a'), text)
    await (await page.cell('Depot gate', 'asks')).click()
    await type('field requires', 'level >= 1')
    await page.shows('turns', /^Depot gate\s+\S+ →\s+clear$/)
    // What is not understood turns nothing, and what stands there is no change.
    await type('field requires', 'level >= 1 and')
    await noTurns()
    await type('field requires', 'level >= 2')
    await noTurns()
    // Esc counts at once, also while names that fit are looked for.
    await (await page.find('field requires')).sendKeys(Key.BACK_SPACE, '1', Key.ESCAPE)
    await page.shows('field requires', /^level >= 2$/)
    await noTurns()
    await (await page.cell('First round', 'asks')).click()
    await page.find('editor source')
    // Half of it is not understood yet, and nothing is told of it.
    await type('field yields', '600')
    await noTurns()
    await (await page.find('field yields')).sendKeys(' renown')
    await page.shows('turns', /^Depot gate\s+\S+ →\s+clear$/)
    await (await page.find('field yields')).sendKeys(Key.ESCAPE)
    await noTurns()
    assert.equal(await page.text('counts'), counts)
    // Whoever goes to another row has it taken.
    await type('field count', '20')
    await page.shows('turns', /^Depot gate\s+\S+ →\s+clear$/)
    await (await page.cell('Depot gate', 'asks')).click()
    await page.shows('counts', /1 clear/)
    await noTurns()
  })

  it('chooses from a list, is told at once what that turned, wherever it is, and goes there', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    await page.shows('counts', /31 clear/)
    await (await page.cell('First round', 'asks')).click()
    await page.find('editor source')
    await page.choose('field role', 'side')
    await page.shows('turned', /^\d+ verdicts turned: \d+ worse\s+v$/)
    await (await page.find('sheet')).sendKeys(Key.ESCAPE)
    await page.press('v')
    await page.shows('turn', /^With the last change: clear → short\.$/)
    await page.chord(Key.CONTROL, 'z')
    await page.shows('turned', /^\d+ verdicts turned: \d+ better\s+v$/)
    assert.deepEqual(await page.barriers(), [])
  })
})
