import { isCrash } from './browser.ts'
import { Page } from './page.ts'
import { TestServer } from './server.ts'

/** A server and a browser for the stories of a suite: started before them, taken down after them. */
export function stage(): { server: TestServer; page: Page } {
  const server = new TestServer()
  const page = new Page()
  before(async () => {
    await server.start()
    await page.start()
  })
  // A browser that crashes says nothing of the page: the story is told once more, in a new one. What the page does to it comes again.
  beforeEach(function () {
    const test = this.currentTest!
    const story = test.fn as (this: unknown) => Promise<void>
    test.fn = async function () {
      try {
        await story.call(this)
      } catch (error) {
        if (!isCrash(error)) throw error
        console.error(`The browser crashed in "${test.title}", which is told again in a new one. Its log:\n${await page.startAgain()}`)
        await story.call(this)
      }
    }
  })
  after(async () => {
    await page.quit()
    await server.remove()
  })
  return { server, page }
}
