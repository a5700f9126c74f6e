/** Makes the pictures in docs/screenshots from the demo plans: `npm run screenshots`. */
import { writeFileSync } from 'node:fs'
import { By, Key } from 'selenium-webdriver'
import { Page } from './page.ts'
import { TestServer } from './server.ts'

const server = new TestServer()
await server.start()
const page = await Page.opened()
const { driver } = page

async function shoot(name: string): Promise<void> {
  await page.eventually(() => driver.executeScript<boolean>('return ![...document.querySelectorAll(".soft")].some((one) => one.textContent.startsWith("looking"))'), 'nothing to be looked for any more')
  // Pending animations and worker answers settle within a few frames.
  await driver.executeAsyncScript('const done = arguments[0]; setTimeout(done, 700)')
  writeFileSync(`docs/screenshots/${name}.png`, await driver.takeScreenshot(), 'base64')
}

async function pictures(): Promise<void> {
  await page.openPlan(server.url, 'Lamplight Post')
  await page.shows('counts', /clear/)
  await shoot('route')
  await (await page.find('sheet')).click()
  await page.press('n')
  await page.find('why')
  await shoot('route-why')
  await driver.findElement(By.css('[aria-label="Dark theme"]')).click()
  await page.press('t', 'a')
  await page.choose('profile', 'Usual player')
  await page.shows('counts', /depend/)
  await page.eventually(async () => (await driver.findElements(By.css('path.other'))).length > 10, 'the other players')
  await shoot('route-dark')
  await (await page.find('everyone')).click()
  await driver.findElement(By.css('[aria-label="Light theme"]')).click()

  await page.openPlan(server.url, 'Lamplight Post, early draft')
  await page.shows('lockouts', /Stuck for good: yes/)
  await (await page.find('sheet')).click()
  await page.press('n')
  await page.find('witness')
  await page.shows('lockout fixes', /lead both ways/)
  await shoot('findings')
  await page.press(Key.ESCAPE)
  await page.choose('finding kind', 'short gate')
  await page.choose('finding place', 'The Old Ferry')
  await (await page.find('sheet')).click()
  await page.press('n')
  await page.eventually(async () => (await driver.findElements(By.css('[data-test="fixes"] .apply'))).length >= 3, 'the fixes')
  await driver.executeScript('document.querySelector(\'[data-test="fixes"]\').scrollIntoView({ block: "start" })')
  await shoot('fix')
  await page.press(Key.ESCAPE, Key.HOME)
  await (await page.cell('Drifts on the pans', 'name')).click()
  await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN).keyUp(Key.SHIFT).perform()
  await page.fill('bulk number', '0.8')
  await page.shows('turns', /→|no verdict/)
  await shoot('rows')
  await page.paste('name\tplace\tcount\trenown\tstamps\nIce floats moored\tThe Old Ferry\t3\t15\t\nLetters for the pilots\tThe Old Ferry\t2\t40\t1\nFlag hoisted\tThe Old Quay\t1\t5\t\nRopes thawed\t\tmany\t5\t')
  await page.shows('paste', /With them:\s+(?!working)/)
  await shoot('paste')
  await page.press(Key.ESCAPE)
  await page.noDialog()
  await (await page.find('sheet')).click()
  await page.press('2')
  await page.shows('held', /Wave 0/)
  await page.press(']', ']', ']', ']')
  await page.chord(Key.CONTROL, 'k')
  await page.eventually(async () => (await driver.switchTo().activeElement().getAttribute('aria-label')) === 'Find a command', 'the field to find')
  await page.press('warden hut', Key.ENTER)
  await page.find('ring')
  await page.noDialog()
  await shoot('map')
  await page.openPlan(server.url, 'Lamplight Post')
  await (await page.find('sheet')).click()
  await page.press('3')
  await page.find('curve table')
  await page.fill('bench amount', '900')
  await page.click('bench give')
  await page.eventually(async () => /Harbour Depot/.test(await page.text('curve table')), 'where levels are reached')
  await shoot('curves')

  await page.openPlan(server.url, 'Lamplight Post, early draft')
  await (await page.find('sheet')).click()
  await page.press('4')
  await page.shows('walk place', /Harbour Depot/)
  await page.press('w', 'w', 'w', 'w', 'w')
  await (await driver.findElement(By.xpath('//*[@data-test="walk items"]/li[.//b[normalize-space(.)="Ferry gate"]]//button[normalize-space(.)="open"]'))).click()
  await page.shows('walk refusal', /rank 9/)
  await page.shows('walk band', /Thorough/)
  await shoot('walk')
  await (await driver.findElement(By.xpath('//*[@data-test="kept walk"]//button[normalize-space(.)="Main content to the ferry"]'))).click()
  await page.shows('walk broken', /The ferryman wants rank 9/)
  await shoot('walk-kept')

  await page.newPlan(server.url, 'The winter road')
  await page.find('begin')
  await shoot('empty')
}

try {
  await pictures()
} finally {
  await page.quit()
  await server.remove()
}
