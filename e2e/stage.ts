import { openBrowser, Page } from './page.ts'
import { TestServer } from './server.ts'

/** A server and a browser for the stories of a suite: started before them, taken down after them. */
export function stage(): { server: TestServer; page: Page } {
  const server = new TestServer()
  const page = new Page()
  before(async () => {
    await server.start()
    page.driver = await openBrowser()
  })
  after(async () => {
    await page.quit()
    await server.remove()
  })
  return { server, page }
}
