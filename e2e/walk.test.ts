import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import { stage } from './stage.ts'

describe('a designer who walks the plan', () => {
  const { server, page } = stage()

  async function openWalk(name: string): Promise<void> {
    await page.openView(server.url, name, '4')
    await page.shows('walk place', /./)
  }
  const item = async (name: string) => page.driver.findElement(By.xpath(`//*[@data-test="walk items"]/li[.//b[normalize-space(.)="${name}"]]`))
  const press = async (name: string, button: string) => (await (await item(name)).findElement(By.xpath(`.//button[normalize-space(.)="${button}"]`))).click()

  it('comes to the short gate of the draft, reads its text, changes it in place, and goes through', async () => {
    await openWalk('Lamplight Post, early draft')
    for (let i = 0; i < 4; i++) await page.press('w')
    await page.shows('walk place', /The Old Ferry/)
    await page.press('w')
    await page.shows('walk place', /The Old Ferry/)
    assert.match(await (await item('Ferry gate')).getText(), /level >= 9: 8 of 9/)
    await press('Ferry gate', 'open')
    await page.shows('walk refusal', /The ferryman wants rank 9\./)
    await press('Ferry gate', 'change')
    await (await page.find('asks editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'level >= 8 and ferry_whistle for 8 stamps', Key.ENTER)
    await page.eventually(async () => !/8 of 9/.test(await (await item('Ferry gate')).getText()), 'the gate under its new requirement')
    await page.press('w')
    await page.shows('walk place', /Lantern Row/)
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /Ferry gate asks for level >= 8/)
    // The change undone: the walk says where it no longer holds.
    await page.click('undo')
    await page.shows('walk broken', /no longer bears this walk out at move \d+ \(open Ferry gate\): The ferryman wants rank 9/)
    await page.saved()
  })

  it('walks a route of sixteen places with one key, and is told of levels, stats and XP lost at a cap', async () => {
    await openWalk('Lamplight Post, early draft')
    await page.press('w')
    await page.shows('walk place', /Saltpan Flats/)
    await page.shows('walk log', /Courier level 1 → 2; Stamina 40 → 46 \(\+6\), Load/)
    await page.shows('walk band', /On leaving here:\s+Straight level 4[\s\S]*below/)
    await page.press('u', 'u')
    await page.press('y', 'y')
    await page.shows('walk place', /Saltpan Flats/)
    await page.fill('gift amount', '900')
    await page.choose('gift tally', "Pip's notes")
    // One level for each gain, up to the cap; what comes after that is lost.
    for (let i = 0; i < 6; i++) await page.click('give')
    await page.shows('walk log', /gift: 900 Pip's notes/)
    await page.shows('walk log', /XP of Pip, the apprentice lost at the limit/)
    assert.deepEqual(await page.barriers(), [])
  })

  it('notices a level that is lost on entering a place', async () => {
    const place = (id: string, name: string, contents: unknown[] = []) => ({ id, name, kind: 'area', goal: id === 'shore', contents })
    const plan = {
      format: 'tundrift-plan', version: 1, id: 'daily', name: 'A rank for each day', start: 'depot',
      tallies: [{ id: 'effort', name: 'Effort', kind: 'experience', resets: 'place' }],
      curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 50, factor: 1, add: 0 } }],
      characters: [{ id: 'courier', name: 'Courier', experience: 'effort', curve: 'rank' }],
      places: [place('depot', 'Depot', [{ source: { id: 'round', name: 'Round', kind: 'quest', count: 2, yields: [{ tally: 'effort', min: 60, max: 60 }] } }]), place('shore', 'Shore')],
      passages: [{ id: 'path', from: 'depot', to: 'shore' }],
      routes: [{ id: 'line', name: 'Line', stops: ['depot', 'shore'] }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    }
    const reply = await fetch(`${server.url}api/plans/import`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(plan) })
    const { id } = (await reply.json()) as { id: string }
    await page.open(`${server.url}plans/${id}/walk`)
    await page.shows('walk place', /Depot/)
    // By keyboard: all of the round, then down to the way on.
    await page.focusIs('walk items', 'data-test')
    await page.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ENTER).keyUp(Key.SHIFT).perform()
    await page.shows('walk courier', /level 3/)
    await page.press(Key.ARROW_DOWN, Key.ENTER)
    await page.shows('walk place', /Shore/)
    await page.shows('walk courier', /level 1/)
    await page.shows('walk log', /Effort back to 0 \(was 120\)/)
    await page.press(Key.BACK_SPACE)
    await page.shows('walk courier', /level 3/)
  })

  it("walks a lock-out's witness by hand", async () => {
    await page.openPlan(server.url, 'Lamplight Post, early draft')
    await page.shows('lockouts', /Stuck for good: yes/)
    await (await page.find('sheet')).click()
    await page.press(Key.ESCAPE, 'n')
    await page.click('walk witness')
    await page.shows('walk place', /The Old Slipway/)
    await page.shows('walk items', /Driftwood/)
    assert.lengthOf(await page.driver.findElements(By.css('[data-test="walk items"] li.way')), 0)
    assert.deepEqual(await page.faults(), [])
  })

  it('keeps a walk with what it expects, and finds it red, with the move named, when a source elsewhere is lowered', async () => {
    await openWalk('Lamplight Post')
    await page.shows('kept walks', /all 2 hold/)
    for (let i = 0; i < 3; i++) await page.press('w')
    await page.shows('walk place', /Rime Wood/)
    await page.press('x')
    await page.shows('walk log', /✓\s+level == 5/)
    await page.driver.findElement(By.css('[data-test="held stamps"] button')).click()
    await page.fill('walk name', 'Main content to the wood')
    await page.click('keep walk')
    await page.shows('kept walks', /all 3 hold[\s\S]*Main content to the wood/)
    await (await page.find('walk items')).click()
    await page.press('1')
    await page.edit('Drifts on the pans', 'asks', '1 renown')
    await page.edit('Express letter to the pans', 'asks', '1 renown, 4 stamps')
    await page.shows('red walks', /^[123]$/)
    await (await page.find('sheet')).click()
    await page.press('4')
    const mine = async () => page.driver.findElement(By.xpath('//*[@data-test="kept walk"][.//button[normalize-space(.)="Main content to the wood"]]'))
    await page.eventually(async () => /after \d+ moves: level == 5: it is \d|move \d+ cannot be made/.test(await (await mine()).getText()), 'the walk to be red')
    // The plan is opened anew: the walk is part of it, and still red.
    await page.saved()
    await page.driver.navigate().refresh()
    await page.eventually(async () => /after \d+ moves/.test(await (await mine()).getText()), 'the walk to be red after a reload')
    await (await mine()).findElement(By.xpath('.//button[normalize-space(.)="Main content to the wood"]')).click()
    await page.shows('kept walks', /not borne out/)
    await page.click('undo')
    await page.click('undo')
    await page.shows('kept walks', /all 3 hold/)
    assert.deepEqual(await page.barriers(), [])
  })

  it('keeps the walk to a short gate as a test before it is mended, and sees it turn green', async () => {
    await page.openPlan(server.url, 'Lamplight Post, early draft')
    await page.shows('counts', /short/)
    await page.eventually(async () => !/looking/i.test(await page.text('findings')), 'the findings')
    await page.choose('finding kind', 'short gate')
    await page.choose('finding place', 'The Old Ferry')
    await (await page.find('sheet')).click()
    await page.press(Key.ESCAPE, 'n')
    await page.click('keep walk to gate')
    await page.shows('fixes', /The walk to it is kept/)
    await page.shows('red walks', /^2$/)
    await page.shows('fixes', /Ask for level >= 8 and ferry_whistle instead/)
    await (await page.driver.findElement(By.css('[data-test="fixes"] .apply'))).click()
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="red walks"]'))).length === 0, 'no walk to be red')
    await page.driver.findElement(By.css('nav.views a:nth-child(4)')).click()
    await page.shows('kept walks', /all 3 hold[\s\S]*Ferry gate, Straight/)
    await page.click('undo')
    await page.shows('kept walks', /2 of 3 not borne out[\s\S]*cannot be made: The ferryman wants rank 9/)
  })

  it('changes what a source gives where it stands, by keyboard, and sees the path of stages', async () => {
    await openWalk('Lamplight Post')
    await page.focusIs('walk items', 'data-test')
    await page.press(Key.F2)
    const field = await page.find('asks editor')
    assert.match((await field.getAttribute('value'))!, /renown/)
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '40 gold', Key.ENTER)
    await page.shows('walk', /"gold" is no amount of a tally|is no amount/)
    await (await page.find('asks editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), '1,000 renown'.replace(',', ''), Key.ENTER)
    await page.press(Key.ENTER)
    await page.shows('walk log', /\+1,000 Renown/)
    await page.shows('stages', /Row 1 locked[\s\S]*of 3 Seals/)
    assert.deepEqual(await page.faults(), [])
  })
})
