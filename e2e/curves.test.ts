import { spawnSync } from 'node:child_process'
import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import type { CheckResult } from '../src/core/check/result.ts'
import { stage } from './stage.ts'

describe('a designer of curves', () => {
  const { server, page } = stage()

  async function openCurves(name: string): Promise<void> {
    await page.openView(server.url, name, '3')
    await page.find('curve table')
  }
  const step = async (words: string) => (await page.driver.findElement(By.xpath(`//*[@data-test="curve table"]//tr[td[normalize-space(.)="${words}"]]`))).getText()
  const chooseCurve = async (name: string) => (await page.driver.findElement(By.xpath(`//aside//button[normalize-space(.)="${name}"]`))).click()

  it('pastes a column, sees that it is off by one, and takes it for the step that is meant', async () => {
    await openCurves('Lamplight Post')
    await page.click('paste column')
    const field = await page.driver.wait(async () => (await page.driver.findElements(By.css('[data-test="column"] textarea')))[0], 10_000)
    await page.driver.executeScript('arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event("input"))', field, 'XP\n100\n120\n144\n173')
    await page.shows('column', /The first number, 100, is what it takes for/)
    await page.shows('column', /1 → 2\s+80\s+100\s+100/)
    // In that spreadsheet the first row was level 2.
    await page.choose('column from', '2 → 3')
    await page.shows('column', /1 → 2\s+80\s+80\s+80[\s\S]*2 → 3\s+104\s+100\s+180/)
    await page.shows('column', /ends at level 6 instead of 30/)
    await page.click('column take')
    await page.noDialog()
    await page.eventually(async () => /^5 → 6 173 617/.test((await step('5 → 6')).replace(/\s+/g, ' ')), 'the values of the column')
    await page.shows('since opened', /Worse: \d+/)
    await page.click('undo')
    await page.eventually(async () => /^1 → 2 80 80/.test((await step('1 → 2')).replace(/\s+/g, ' ')), 'the curve as it was')
    await page.shows('since opened', /No verdict has changed/)
    await page.saved()
  })

  it('edits one value, is asked whether the growth becomes a table, and reads the chart by keyboard', async () => {
    await openCurves('Lamplight Post')
    await (await page.driver.findElement(By.css('[data-level="3"]'))).click()
    await (await page.find('step editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), '500', Key.ENTER)
    const yes = await page.driver.wait(async () => (await page.driver.findElements(By.xpath('//button[contains(., "Make it a table")]')))[0], 10_000)
    await page.driver.wait(async () => yes!.isDisplayed(), 10_000)
    await yes!.click()
    await page.eventually(async () => /^3 → 4 500 684/.test((await step('3 → 4')).replace(/\s+/g, ' ')), 'the value')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /Courier rank: 3 → 4 takes 500/)
    await page.noDialog()
    await (await page.driver.findElement(By.css('svg[role="slider"]'))).sendKeys(Key.HOME, Key.ARROW_RIGHT, Key.ARROW_RIGHT)
    await page.shows('curve readout', /3 → 4: 500 XP, 684 in all/)
    await page.click('undo')
    await page.saved()
    assert.deepEqual(await page.barriers(), [])
  })

  it('sees XP lost at a cap on the bench, and cures it by keeping it', async () => {
    await openCurves('Lamplight Post, early draft')
    await chooseCurve('Apprentice')
    await page.shows('bench state', /Level 1/)
    await page.fill('bench amount', '200')
    for (let i = 0; i < 6; i++) await page.click('bench give')
    await page.shows('bench state', /Level 5, at the limit|Level 5 · at the limit/)
    await page.shows('bench told', /200 XP lost/)
    await page.choose('field atTop', 'bank')
    await page.shows('bench state', /Level 1/)
    for (let i = 0; i < 6; i++) await page.click('bench give')
    await page.shows('bench told', /nothing lost/)
    await page.shows('bench state', /at the limit, [\d,]+ XP kept/)
    await page.click('undo')
    await page.saved()
  })

  it('writes a formula, sees its values as it is typed, and is told what is wrong in it', async () => {
    await openCurves('Lamplight Post')
    await page.choose('field rule kind', 'formula')
    const field = await page.find('field formula')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '100 + 20 * L')
    await page.shows('typed values', /level 2 at 120, level 3 at 260/)
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '100 + 20 * prv')
    await page.eventually(async () => /"prv" is no name of a formula.*did you mean prev/.test(await page.driver.findElement(By.css('.left .says')).getText()), 'what is wrong')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '100 + 20 * L', Key.ENTER)
    await page.eventually(async () => /^2 → 3 140 260/.test((await step('2 → 3')).replace(/\s+/g, ' ')), 'the values of the formula')
    await page.click('undo')
    await page.click('undo')
    await page.eventually(async () => /^1 → 2 80 80/.test((await step('1 → 2')).replace(/\s+/g, ' ')), 'the curve as it was')
    await page.saved()
  })

  it('types a factor while another window changes the same growth: what is typed stays, and is taken over theirs', async () => {
    await openCurves('Lamplight Post')
    const { first, second } = await page.openAgain()
    await page.find('curve table')
    const factor = await page.find('field factor')
    const before = await factor.getAttribute('value')
    await factor.sendKeys(Key.chord(Key.CONTROL, 'a'), '1.5')
    await page.driver.switchTo().window(first)
    await (await page.find('field base')).sendKeys(Key.chord(Key.CONTROL, 'a'), '90', Key.ENTER)
    await (await page.find('field factor')).sendKeys(Key.chord(Key.CONTROL, 'a'), '1.4', Key.ENTER)
    await page.saved()
    await page.driver.switchTo().window(second)
    await page.shows('field rule', /It was changed elsewhere to “1.4”/)
    assert.deepEqual([await factor.getAttribute('value'), await (await page.find('field base')).getAttribute('value')], ['1.5', '90'])
    await factor.sendKeys(Key.ENTER)
    await page.eventually(async () => /^2 → 3 149 239/.test((await step('2 → 3')).replace(/\s+/g, ' ')), 'the values of what was typed')
    await (await page.find('field base')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'many', Key.ENTER)
    await page.shows('field rule', /a number is needed/)
    await (await page.find('field base')).sendKeys(Key.ESCAPE)
    assert.equal(await (await page.find('field base')).getAttribute('value'), '90')
    await page.saved()
    await page.driver.close()
    await page.driver.switchTo().window(first)
    for (let i = 0; i < 3; i++) await page.click('undo')
    await page.eventually(async () => (await (await page.find('field factor')).getAttribute('value')) === before, 'the growth as it was')
    await page.saved()
  })

  it('mends a gap between forms', async () => {
    await openCurves('Lamplight Post, early draft')
    await chooseCurve('Lead dog level')
    await page.shows('form trouble', /Level 5: no form/)
    await page.click('mend forms')
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="form trouble"]'))).length === 0, 'no trouble with forms')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /mend the forms of Bracken/)
    await page.click('undo')
    await page.shows('form trouble', /Level 5/)
    await page.saved()
  })

  it('fits the curve to five levels along the route, within half a level', async () => {
    await openCurves('Lamplight Post')
    await (await page.driver.findElement(By.css('[data-test="fit"] summary'))).click()
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="fit stop"] option'))).length > 10, 'the stops of the route')
    for (const [stop, level] of [['Saltpan Flats', 3], ['Rime Wood', 6], ['Lantern Row', 8], ['Glass Lagoon', 10], ['Beacon Island', 15]] as const) {
      await (await page.driver.findElement(By.xpath(`//*[@data-test="fit stop"]/option[starts-with(normalize-space(.), "${stop}")]`))).click()
      await page.fill('fit level', String(level))
      await page.click('fit add')
    }
    await page.shows('fit rule', /base [\d.]+, each × [\d.]+/)
    const misses = await page.eventuallyRead(async () => {
      const rows = await page.driver.findElements(By.css('[data-test="fit"] tbody tr'))
      return Promise.all(rows.map(async (row) => Number((await row.findElements(By.css('td')))[5] && (await (await row.findElements(By.css('td')))[5]!.getText()).replace('−', '-'))))
    }, (all) => all.length === 5 && all.every(Number.isFinite))
    for (const miss of misses) assert.isAtMost(Math.abs(miss), 0.5)
    await page.click('fit take')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /fit Courier rank to 5 levels/)
    await page.click('undo')
    await page.saved()
  })

  it('makes, doubles and deletes characters, and compares them along the route', async () => {
    await openCurves('Lamplight Post')
    await page.shows('rewards', /\d+ stamps/)
    await page.shows('compared', /place\s+Courier\s+Bracken[\s\S]*Rime Wood\s+\d+\s+\d+/)
    await page.click('double character')
    await page.eventually(async () => /Courier \(copy\)/.test(await page.driver.findElement(By.css('[data-test="character"] option:checked')).getText()), 'the copy to be chosen')
    await page.shows('compared', /Courier \(copy\)/)
    await page.click('delete character')
    await page.eventually(async () => !/copy/.test(await page.text('compared')), 'the copy to be gone')
    // One that is still named is not deleted unasked.
    await page.click('delete character')
    const dialog = await page.driver.wait(async () => (await page.driver.findElements(By.css('.el-message-box')))[0], 10_000)
    await page.eventually(async () => /Courier is still named by/.test(await dialog!.getText()), 'who names it')
    await page.press(Key.ESCAPE)
    await page.noDialog()
    await page.click('undo')
    await page.click('undo')
    await page.saved()
  })

  it('gives on the bench what the command line says of the route', async () => {
    const printed = spawnSync(process.execPath, ['dist/tundrift.js', 'check', 'demo/lamplight_post.tundrift.json', '--route', 'main_line', '--profile', 'straight', '--format', 'json'], { encoding: 'utf8' })
    const { stops } = (JSON.parse(printed.stdout) as CheckResult).routes[0]!.profiles[0]!
    const { tallies, levels } = stops[4]!
    await openCurves('Lamplight Post')
    await page.fill('bench amount', String(tallies.renown!.median))
    await page.click('bench give')
    await page.shows('bench state', new RegExp(`Level ${levels.courier!.median},`))
    assert.deepEqual(await page.faults(), [])
  })
})
