import { readFileSync } from 'node:fs'
import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import type { CheckResult } from '../src/core/check/result.ts'
import { readPlanValue, writePlan } from '../src/core/plan/file.ts'
import { samplePlan } from '../src/core/sample/sample-plan.ts'
import { stage } from './stage.ts'

describe('a designer at work', () => {
  const { server, page } = stage()

  /** Sends a plan file as the page would, and opens what comes of it. */
  async function importAndOpen(text: string): Promise<void> {
    const reply = await fetch(`${server.url}api/plans/import`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text })
    const { id } = (await reply.json()) as { id: string }
    await page.open(`${server.url}plans/${id}`)
    await page.find('sheet')
  }

  it('opens a plan of 200 places, sees that all is clear, and scrolls to its end', async () => {
    const read = readPlanValue(samplePlan({ places: 200, sources: 2000, gates: 800, seed: 1 }))
    if (!read.ok) throw new Error('the sample is no plan')
    await importAndOpen(writePlan(read.records))
    await page.shows('counts', /801 clear/)
    assert.equal(await page.rowCount(), 200 + 2000 + 801 + 1)
    // However long the plan, only what is on the screen is drawn.
    assert.isBelow((await page.driver.findElements(By.css('[role="row"]'))).length, 80)
    // The same of lists beside it: more of them is drawn when it is asked for.
    const passages = async () => (await page.driver.findElements(By.css('[aria-label^="Delete passage_"]'))).length
    const first = await passages()
    assert.isAtMost(first, 100)
    await page.shows('more passage', /Show 100 more of \d+ others/)
    await page.click('more passage')
    await page.eventually(async () => (await passages()) > first, 'more passages')
    await (await page.find('sheet')).click()
    await page.press(Key.END)
    await page.eventually(async () => (await page.driver.findElement(By.css('.line.chosen')).getText()).includes('Gate'), 'the last gate')
  })

  it('begins a walk at one of 200 stops, found by typing its number', async () => {
    const read = readPlanValue(samplePlan({ places: 200, sources: 400, gates: 200, seed: 1 }))
    if (!read.ok) throw new Error('the sample is no plan')
    await importAndOpen(writePlan(read.records))
    await page.driver.findElement(By.linkText('Walk')).click()
    await page.seek('walk start', ' 150,')
    await page.shows('walk place', / 150$/)
    // And at the start again, by keyboard alone.
    await page.seek('walk start', 'the start of the plan')
    await page.shows('walk place', / 1$/)
  })

  it('finds a fault in the list of findings, goes to it, and mends it', async () => {
    const plan = JSON.parse(readFileSync('demo/lamplight_post.tundrift.json', 'utf8')) as { places: { contents: { gate?: { id: string; requires: string } }[] }[] }
    plan.places.flatMap((place) => place.contents).find((item) => item.gate?.id === 'row_warden')!.gate!.requires = 'seals > 10'
    await importAndOpen(JSON.stringify(plan))
    await page.shows('findings', /Row warden asks for seals > 10, and 10 is the most seals that there can be/)
    await (await page.driver.findElement(By.xpath('//*[@data-test="findings"]//button[contains(., "10 is the most")]'))).click()
    await page.shows('dock', /Row warden/)
    await page.edit('Row warden', 'asks', 'seals >= 7')
    await page.press(Key.ESCAPE)
    await page.eventually(async () => !/seals > 10|looking/.test(await page.text('findings')), 'the finding to be gone')
  })

  it('chooses several rows and deletes them as one step', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const rows = await page.rowCount()
    await (await page.cell('First round', 'name')).click()
    await page.driver.actions().keyDown(Key.SHIFT).click(await page.cell('Depot ledger', 'name')).keyUp(Key.SHIFT).perform()
    await page.press(Key.DELETE)
    await page.eventually(async () => (await page.rowCount()) === rows - 3, 'three rows gone')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /Undo: delete 3 rows/)
    await page.click('undo')
    await page.eventually(async () => (await page.rowCount()) === rows, 'three rows back')
  })

  it('doubles a place with all that it holds, deletes it, and goes on where it stood', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const activeName = async (name: string) => page.eventually(async () => (await page.driver.findElement(By.css('.line.chosen .name')).getText()) === name, `${name} to be the active row`)
    const stops = async () => (await Promise.all((await page.driver.findElements(By.css('.row.place .name'))).map((cell) => cell.getText()))).slice(0, 3)
    const [rows, counts] = [await page.rowCount(), await page.shows('counts', /clear/)]
    await (await page.cell('Saltpan Flats', 'name')).click()
    await page.chord(Key.CONTROL, 'd')
    await activeName('Saltpan Flats 2')
    await page.rowShows('Saltpan Flats 2', /area · 9 min · 288 renown/)
    await page.press(Key.HOME)
    assert.deepEqual(await stops(), ['Harbour Depot', 'Saltpan Flats', 'Saltpan Flats 2'])
    // Undone while the sheet stands elsewhere, and done again: what it is about is shown.
    await page.press(Key.END)
    await page.chord(Key.CONTROL, 'z')
    await page.eventually(async () => (await page.rowCount()) === rows, 'the copy gone')
    await page.driver.actions().keyDown(Key.CONTROL).keyDown(Key.SHIFT).sendKeys('z').keyUp(Key.SHIFT).keyUp(Key.CONTROL).perform()
    await activeName('Saltpan Flats 2')
    await page.press(Key.DELETE)
    await activeName('Gull Stair')
    await page.press(Key.ARROW_UP)
    await activeName('Gull Stair gate')
    await page.eventually(async () => (await page.rowCount()) === rows, 'the copy deleted')
    await page.eventually(async () => (await page.text('counts')) === counts, 'the verdicts as they were')
  })

  it('is told why nothing is checked, and has it mended', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const counts = await page.shows('counts', /clear/)
    const remove = async (name: string) => (await page.driver.findElement(By.xpath(`//button[@aria-label="Delete ${name}"]`))).click()
    const mend = async () => (await (await page.find('nothing checked')).findElement(By.css('button'))).click()
    for (const name of ['Main line', 'Orchard detour']) await remove(name)
    await page.shows('nothing checked', /There is no route, so no gate is checked/)
    await mend()
    await page.shows('counts', /clear/)
    for (const name of ['Straight', 'Usual', 'Thorough']) await remove(name)
    await page.shows('nothing checked', /There is no kind of player/)
    await mend()
    await page.shows('counts', /clear/)
    assert.equal((await page.driver.findElements(By.css('[data-test="profile"] option'))).length, 3)
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /add the usual kinds of player/)
    for (let i = 0; i < 7; i++) await page.click('undo')
    await page.eventually(async () => (await page.text('counts')) === counts, 'the verdicts as they were')
    await page.saved()
  })

  it('puts a place between two others, and the route goes through it', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    await (await page.cell('Saltpan Flats', 'name')).click()
    await page.enter('place Ice Bridge area 4 min')
    await page.rowShows('Ice Bridge', /area · 4 min/)
    const names = await Promise.all((await page.driver.findElements(By.css('.row.place .name'))).map((cell) => cell.getText()))
    assert.equal(names[names.indexOf('Saltpan Flats') + 1], 'Ice Bridge')
    await page.shows('counts', /clear/)
    await page.click('undo')
    await page.saved()
  })

  it('widens another lane and keeps it so after a reload', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    const wide = async () => page.driver.findElement(By.css('button.head.wide')).getText()
    await page.eventually(async () => (await wide()) === 'Courier, level', 'the courier wide')
    await page.driver.findElement(By.xpath('//button[contains(@class, "head") and text()="Stamps"]')).click()
    await page.eventually(async () => (await wide()) === 'Stamps', 'stamps wide')
    await page.driver.navigate().refresh()
    await page.find('sheet')
    await page.eventually(async () => (await wide()) === 'Stamps', 'stamps still wide')
  })

  it('looks as another kind of player, and sees odds', async () => {
    await page.openPlan(server.url, 'Lamplight Post')
    await (await page.find('profile')).sendKeys('Usual')
    await (await page.find('find')).sendKeys('ferry cabin')
    await page.rowShows('Ferry cabin', /\d+ %/)
    await (await page.cell('Ferry cabin', 'name')).click()
    await page.shows('sentence', /% of these players have what it asks for/)
    // A choice by mouse leaves the keyboard in the sheet: the list would search itself for the letter.
    await page.press(Key.ESCAPE)
    await page.click('profile')
    await page.press(Key.ARROW_DOWN, Key.ENTER)
    await page.eventually(async () => /Thorough/.test(await page.driver.executeScript<string>('return document.querySelector(\'[data-test="profile"]\').selectedOptions[0].textContent')), 'the thorough player to be chosen')
    await page.press('a')
    await page.eventually(async () => (await (await page.find('everyone')).getAttribute('aria-pressed')) === 'true', 'all players to be shown')
  })

  it('goes through what was found in a draft, sees how a player gets stuck, and mends a short gate by a fix', async () => {
    await page.openPlan(server.url, 'Lamplight Post, early draft')
    // Else the search for lock-outs could not rest while she scrolls.
    assert.isTrue(await page.driver.executeScript<boolean>('return crossOriginIsolated'))
    await page.shows('lockouts', /Stuck for good: yes/)
    await (await page.find('sheet')).click()
    await page.press(Key.ESCAPE, 'n')
    await page.shows('finding', /stuck for good\s+1 of \d+[\s\S]*The Old Ferry[\s\S]*The Old Slipway[\s\S]*no way on from here/)
    // Only the findings of one kind, in one place.
    // The next is a ring: what it asks for besides a level is told, too.
    await page.press('n')
    await page.shows('finding', /Warden hut is sealed/)
    await page.shows('condition', /open\(echo_door\)\s+never opens/)
    await page.press('p', 'p', Key.ESCAPE)
    await (await page.find('finding kind')).sendKeys('short gate')
    await (await page.find('finding place')).sendKeys('The Old Ferry')
    await page.shows('findings', /Faults: 1\s+✕ Ferry gate is short/)
    await (await page.find('sheet')).click()
    await page.press(Key.ESCAPE, 'n')
    await page.shows('fixes', /Ask for level >= 8 and ferry_whistle instead of level >= 9 and ferry_whistle/)
    const apply = await page.driver.findElement(By.css('[data-test="fixes"] .apply'))
    assert.match((await apply.getAttribute('aria-label'))!, /^Apply: ask for level >= 8/)
    const counts = await page.text('counts')
    await apply.click()
    await page.rowShows('Ferry gate', /level >= 8 and ferry_whistle for 8 stamps[\s\S]*0$/)
    await page.shows('fixes', /Done: ask for level >= 8/)
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /Undo: lower what Ferry gate asks for/)
    await page.click('undo')
    await page.rowShows('Ferry gate', /level >= 9/)
    await page.shows('counts', new RegExp(counts.split('\n')[0]!))
    await page.saved()
  })

  it('asks the server for the same check as the page shows', async () => {
    const plans = (await (await fetch(`${server.url}api/plans`)).json()) as { id: string; name: string }[]
    const draft = plans.find((plan) => plan.name === 'Lamplight Post, early draft')!
    const reply = await fetch(`${server.url}api/plans/${draft.id}/check?profile=straight`)
    const { routes } = (await reply.json()) as CheckResult
    const { gates } = routes[0]!.profiles[0]!
    await page.openPlan(server.url, draft.name)
    await page.shows('counts', new RegExp(`^${gates.filter((gate) => gate.verdict === 'clear').length} clear`))
  })
})
