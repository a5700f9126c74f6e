import type { WebDriver } from 'selenium-webdriver'
import { openBrowser } from './page.ts'
import type { TestServer } from './server.ts'

/** Starts the server and a browser before the stories of a suite, and takes both down after them. */
export function stage(server: TestServer, opened: (driver: WebDriver) => void): void {
  let browser: WebDriver | undefined
  before(async () => {
    await server.start()
    browser = await openBrowser()
    opened(browser)
  })
  after(async () => {
    await browser?.quit()
    await server.remove()
  })
}
