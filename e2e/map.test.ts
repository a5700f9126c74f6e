import { assert } from 'chai'
import { By, Key } from 'selenium-webdriver'
import { stage } from './stage.ts'

describe('a designer at the map', () => {
  const { server, page } = stage()

  async function openMap(name: string): Promise<void> {
    await page.openView(server.url, name, '2')
    await page.shows('held', /Wave 0/)
  }
  const choose = async (what: string) => {
    await page.chord(Key.CONTROL, 'k')
    await page.focusIs('Find a command')
    await page.press(what, Key.ENTER)
    await page.noDialog()
  }

  it('goes through the waves, and sees what is held and what opens next', async () => {
    await openMap('Lamplight Post')
    await page.shows('held', /courier level 2[\s\S]*Next:[\s\S]*Depot gate/)
    await page.press(']', ']')
    await page.shows('wave number', /^2 of \d+$/)
    await page.shows('held', /Wave 2[\s\S]*Gull Stair|Next:/)
    assert.include(await (await page.find('place gull_stair')).getAttribute('class'), 'open')
    await page.press('[')
    assert.notInclude((await (await page.find('place gull_stair')).getAttribute('class'))!.split(' '), 'open')
    assert.deepEqual(await page.barriers(), [])
  })

  it('finds a ring of gates that wait on each other, and breaks it', async () => {
    await openMap('Lamplight Post, early draft')
    await choose('warden hut')
    await page.shows('waits', /Warden hut never opens:[\s\S]*In a ring: Warden hut → Echo door → Warden hut\. It breaks where one asks for less:[\s\S]*open\(/)
    await page.find('ring')
    const field = await page.find('field requires')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'level >= 6', Key.ENTER)
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="ring"]'))).length === 0, 'the ring to be gone')
    await page.click('undo')
    await page.find('ring')
    await page.saved()
  })

  it('follows a player who gets stuck, place by place', async () => {
    await openMap('Lamplight Post, early draft')
    await page.click('follow stuck')
    await page.shows('walked', /1 of 6: Harbour Depot\s+take First round/)
    for (let i = 0; i < 5; i++) await page.click('walk on')
    await page.shows('walked', /6 of 6: The Old Slipway[\s\S]*Then: there is no way on from here/)
    assert.lengthOf(await page.driver.findElements(By.css('.numbered')), 6)
    // What would keep players out of it is offered, and taken.
    await page.shows('lockout fixes', /Let slipway_drop lead both ways|lead both ways/)
    await (await page.driver.findElement(By.css('[data-test="lockout fixes"] button'))).click()
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /leads both ways/)
    await page.click('undo')
    await page.saved()
  })

  it('builds on in the map: a place, a gate on a passage, one way only, put elsewhere by hand, and deletes it again', async () => {
    await openMap('Lamplight Post')
    await (await page.find('place beacon_island')).click()
    await page.shows('chosen place', /Beacon Island: wave 15[\s\S]*Ways: to and from Signal Hill/)
    await page.press('a')
    await page.shows('chosen place', /New place: wave 15[\s\S]*Ways: to and from Beacon Island/)
    await page.driver.findElement(By.css('[data-test="chosen place"] .link')).click()
    await page.shows('dock', /passage/)
    await page.press('o')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /beacon_island_to_new_place leads one way/)
    await page.press('g')
    await page.shows('dock', /New gate/)
    await page.find('gate gate_on_beacon_island_to_new_place')
    // The new place is a dead end now, and says so; it is dragged elsewhere, stays there, and is put back.
    const spot = async () => (await page.find('place new_place')).getRect()
    await (await page.find('place new_place')).click()
    await page.shows('chosen place', /a dead end: no way on/)
    const before = await spot()
    await page.driver.actions().dragAndDrop(await page.find('place new_place'), { x: -90, y: 40 }).perform()
    await page.eventually(async () => (await spot()).x < before.x - 60, 'the place to be where it was dragged')
    await page.saved()
    await page.driver.navigate().refresh()
    await page.shows('held', /Wave 0/)
    await page.click('unpin')
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="unpin"]'))).length === 0, 'no place to be pinned')
    await (await page.find('place new_place')).click()
    await page.press(Key.DELETE)
    await page.eventually(async () => (await page.driver.findElements(By.css('[data-test="place new_place"]'))).length === 0, 'the place to be gone')
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /delete New place/)
    assert.deepEqual(await page.barriers(), [])
  })

  it('finds a key behind its own door, moves it, and it opens', async () => {
    const plan = {
      format: 'tundrift-plan', version: 1, id: 'locked', name: 'The locked shed', start: 'depot',
      tallies: [{ id: 'key', name: 'Key', kind: 'flag' }],
      places: [
        { id: 'depot', name: 'Depot', kind: 'hub', contents: [{ gate: { id: 'door', name: 'Shed door', kind: 'door', requires: 'key', guards: { passage: 'path' } } }] },
        { id: 'shed', name: 'Shed', kind: 'area', goal: true, contents: [{ source: { id: 'find_key', name: 'Key found', kind: 'pickup', yields: [{ tally: 'key', min: 1, max: 1 }] } }] },
      ],
      passages: [{ id: 'path', from: 'depot', to: 'shed' }],
      routes: [{ id: 'line', name: 'Line', stops: ['depot', 'shed'] }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    }
    const reply = await fetch(`${server.url}api/plans/import`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(plan) })
    const { id } = (await reply.json()) as { id: string }
    await page.open(`${server.url}plans/${id}/map`)
    await page.find('place shed')
    await (await page.find('gate door')).click()
    await page.shows('waits', /Shed door never opens:\s+key is never had\. In a ring: Shed door/)
    await page.find('ring')
    // Moved before the door in the Route view, with the keyboard.
    await page.press(Key.ESCAPE)
    await choose('go to route')
    await page.find('sheet')
    await choose('key found')
    await (await page.cell('Key found', 'name')).click()
    await page.chord(Key.ALT, Key.ARROW_UP)
    await page.rowShows('Shed door', /0|open/)
    await page.shows('counts', /1 clear/)
    await choose('go to map')
    await page.shows('held', /Next:[\s\S]*Shed door/)
    await page.saved()
  })

  it('draws a route by choosing places one after another', async () => {
    await openMap('Lamplight Post')
    // It begins at the chosen place.
    await (await page.find('place harbour_depot')).click()
    await page.click('draw route')
    await (await page.find('place saltpan_flats')).click()
    await (await page.find('place rime_wood')).click()
    await page.shows('drawing', /Saltpan Flats and Rime Wood are not joined/)
    await (await page.find('place gull_stair')).click()
    await page.shows('drawing', /Harbour Depot → Saltpan Flats → Gull Stair/)
    await page.click('take route')
    await page.shows('dock', /Drawn route/)
    assert.match((await (await page.find('undo')).getAttribute('title'))!, /add Drawn route/)
    await page.click('undo')
    await page.saved()
    assert.deepEqual(await page.faults(), [])
  })
})
