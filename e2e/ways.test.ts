import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import { stage } from './stage.ts'

describe('a designer who goes about in the sheet', () => {
  const { server, page } = stage()

  it('finds rows and folds away the rest, goes to anything by its name, and sees what is held there', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const rows = await page.rowCount()
    await (await page.find('sheet')).click()
    await page.chord(Key.CONTROL, 'f')
    await page.press('lamp_glass >=')
    await page.eventually(async () => (await page.rowCount()) < rows / 2, 'only what was found')
    await page.rowShows('Upper landing', /lamp_glass >= 4/)
    await page.press(Key.ESCAPE)
    await page.eventually(async () => (await page.rowCount()) === rows, 'all rows again')
    await page.chord(Key.CONTROL, 'k')
    await page.focusIs('Find a command')
    await page.press('hill express', Key.ENTER)
    await page.noDialog()
    await page.shows('readout', /after Hill express:\s+Courier, level\s+\d+/)
    await page.press('?')
    await page.shows('shortcuts', /Alt with/)
    await page.press(Key.ESCAPE)
    await page.noDialog()
  })

  it('is shown what it adds, goes to or undoes, also where the rows looked for or a folded place would hide it', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const rows = await page.rowCount()
    const look = async (words: string) => {
      await (await page.find('find')).sendKeys(words, Key.ENTER)
      await page.eventually(async () => (await page.rowCount()) < rows, 'only what was found')
    }
    const goToLanding = async (what: string) => {
      await page.chord(Key.CONTROL, 'k')
      await page.focusIs('Find a command')
      await page.press('upper landing', Key.ENTER)
      await page.noDialog()
      await page.eventually(async () => (await page.driver.findElement(By.css('.line.chosen .name')).getText()) === 'Upper landing', what)
    }
    await look('Upper landing')
    await (await page.find('entry')).sendKeys('3 lost gloves 5 renown', Key.ENTER)
    await page.rowShows('lost gloves', /3 × 5 renown/)
    assert.equal(await page.rowCount(), rows + 1)
    await look('Hill express')
    await page.click('undo')
    await page.eventually(async () => (await page.rowCount()) < rows, 'nothing but what is looked for, as what was undone is gone')
    await goToLanding('the gate to be shown')
    assert.equal(await page.rowCount(), rows)
    await (await page.cell('Gull Stair', 'name')).click()
    await page.press(Key.ARROW_LEFT)
    await page.eventually(async () => (await page.rowCount()) < rows, 'the place to be folded')
    await goToLanding('the place to be unfolded')
  })

  it('looks at the map in between and goes on where she was, and what is folded or looked for never takes the row away from under her', async () => {
    const { driver } = page
    const active = () => driver.executeScript<string>('return document.querySelector(".line.chosen .cell.active")?.textContent ?? ""')
    const top = () => driver.executeScript<number>('return document.querySelector(\'[data-test="sheet"]\').scrollTop')
    const standsOn = (name: string) => page.eventually(async () => (await active()) === name, `${name} to be the active row, and in view`)
    await page.openPlan(server.url, 'Lamplight Post, early draft')
    // The keyboard is in the sheet from the beginning.
    await page.press(Key.END, Key.ARROW_UP)
    const name = await page.eventuallyRead(active, (text) => text !== '')
    const stood = await top()
    await page.press('2')
    await page.find('map')
    await page.press('1')
    await standsOn(name)
    await page.eventually(async () => (await top()) === stood, 'the sheet to stand where it stood')
    // What is chosen in the map is shown in the sheet.
    await page.press('2')
    await page.click('gate depot_gate')
    await page.press('1')
    await standsOn('Depot gate')
    await page.press('f')
    await standsOn('Harbour Depot')
    await page.press(Key.ARROW_DOWN)
    await standsOn('Saltpan Flats')
    await page.press('3')
    await page.find('curve table')
    await page.press('1', 'f')
    await standsOn('Saltpan Flats')
    await page.chord(Key.CONTROL, 'f')
    await page.press('ferry level 9')
    await page.shows('found', /^1 row found/)
    await page.press(Key.ENTER)
    await standsOn('Ferry gate')
    await page.press(Key.ESCAPE)
    await standsOn('Ferry gate')
  })
})
