/** Makes the pictures in docs/screenshots from the demo plan: `npm run screenshots`. */
import { writeFileSync } from 'node:fs'
import { Key } from 'selenium-webdriver'
import { openBrowser, Page } from './page.ts'
import { TestServer } from './server.ts'

const server = new TestServer()
await server.start()
const driver = await openBrowser()
const page = new Page(driver)

async function shoot(name: string): Promise<void> {
  // Pending animations and worker answers settle within a few frames.
  await driver.executeAsyncScript('const done = arguments[0]; setTimeout(done, 700)')
  writeFileSync(`docs/screenshots/${name}.png`, await driver.takeScreenshot(), 'base64')
}

try {
  await page.openPlan(server.url, 'Lamplight Post')
  await page.shows('counts', /clear/)
  await page.eventually(async () => !/looking/.test(await page.text('findings')), 'the findings')
  await shoot('route')
  await (await page.find('sheet')).click()
  await page.press('n')
  await page.find('why')
  await shoot('route-why')
  await (await page.find('profile')).sendKeys('Usual')
  await page.shows('counts', /depend/)
  await page.eventually(async () => !/checking/.test(await driver.findElement({ css: '.strip' }).getText()), 'the check')
  await page.press(Key.ESCAPE)
  await driver.findElement({ css: '[aria-label="Dark theme"]' }).click()
  await shoot('route-dark')
  await driver.findElement({ css: '[aria-label="Light theme"]' }).click()
  await page.newPlan(server.url, 'The winter road')
  await page.find('begin')
  await shoot('empty')
} finally {
  await driver.quit()
  await server.remove()
}
