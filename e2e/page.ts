import { readFileSync } from 'node:fs'
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver'
import type chrome from 'selenium-webdriver/chrome.js'
import { Browser } from './browser.ts'

const patience = 60_000

/** What a designer does and sees on the page. */
export class Page {
  private browser: Browser | null = null

  static async opened(): Promise<Page> {
    const page = new Page()
    await page.start()
    return page
  }

  async start(): Promise<void> {
    this.browser = await Browser.open()
  }

  /** There is one once the browser is open. */
  get driver(): WebDriver {
    return this.browser!.driver
  }

  async quit(): Promise<void> {
    await this.browser?.close()
    this.browser = null
  }

  /** A browser that has crashed makes room for a new one: what it noted of itself. */
  async startAgain(): Promise<string> {
    const log = this.browser?.log() ?? ''
    await this.quit()
    await this.start()
    return log
  }

  async open(url: string): Promise<void> {
    await this.driver.get(url)
  }

  find(name: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(`[data-test="${name}"]`)), patience, `nothing is marked "${name}"`)
  }

  async click(name: string): Promise<void> {
    await (await this.find(name)).click()
  }

  async fill(name: string, text: string): Promise<void> {
    const field = await this.find(name)
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text)
  }

  /** Chooses an option of a list by its words. */
  async choose(name: string, option: string): Promise<void> {
    await (await (await this.find(name)).findElement(By.xpath(`./option[normalize-space(.)="${option}"]`))).click()
  }

  /** Looks for a choice in a list of many by typing, and takes the first that is found. */
  async seek(name: string, words: string): Promise<void> {
    const field = await (await this.find(name)).findElement(By.css('input'))
    await field.click()
    await field.sendKeys(words)
    await this.eventually(async () => {
      const found = await this.driver.executeScript<string[]>('return [...document.querySelectorAll(".choices .el-select-dropdown__item")].filter((one) => one.checkVisibility()).map((one) => one.textContent)')
      return found.length > 0 && found.every((text) => text.includes(words))
    }, `only what has "${words}" in it to be left`)
    await field.sendKeys(Key.ARROW_DOWN, Key.ENTER)
  }

  /** A new plan with a name, from the list of plans. */
  async newPlan(url: string, name: string): Promise<void> {
    await this.open(url)
    await this.click('new-plan')
    await this.nameIsAsked()
    await this.press(name, Key.ENTER)
  }

  /** The name that is proposed is chosen, so that what is typed takes its place. */
  nameIsAsked(): Promise<void> {
    return this.eventually(() => this.driver.executeScript<boolean>('const field = document.activeElement; return field.matches(".el-message-box__input input") && field.selectionStart === 0 && field.selectionEnd === field.value.length'), 'the name to be asked for')
  }

  async openPlan(url: string, name: string): Promise<void> {
    await this.open(url)
    await (await this.driver.wait(until.elementLocated(By.linkText(name)), patience)).click()
    await this.find('sheet')
  }

  /** Opens what is shown in a second window as well, and goes there: the two windows' handles. */
  async openAgain(): Promise<{ first: string; second: string }> {
    const { driver } = this
    const [first, url] = [await driver.getWindowHandle(), await driver.getCurrentUrl()]
    await driver.switchTo().newWindow('window')
    await this.open(url)
    return { first, second: await driver.getWindowHandle() }
  }

  /** Opens a plan and goes to a view of it by its key, once the verdicts are there. */
  async openView(url: string, name: string, key: string): Promise<void> {
    await this.openPlan(url, name)
    await this.shows('counts', /clear/)
    await (await this.find('sheet')).click()
    await this.press(key)
  }

  /** Types a line into the entry line and waits for the row that it makes. */
  async enter(line: string): Promise<void> {
    const rows = await this.rowCount()
    const field = await this.find('entry')
    await field.sendKeys(line, Key.ENTER)
    const isTally = line.startsWith('tally')
    if (!isTally) await this.eventually(async () => (await this.rowCount()) > rows, `a row for "${line}"`)
  }

  async rowCount(): Promise<number> {
    const sheets = await this.driver.findElements(By.css('[data-test="sheet"]'))
    return sheets[0] ? Number(await sheets[0].getAttribute('aria-rowcount')) : 0
  }

  /** The row in which a name stands. */
  row(name: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.xpath(`//*[@role="row"][.//*[@role="gridcell" and normalize-space(.)="${name}"]]`)), patience, `no row "${name}"`)
  }

  async cell(row: string, column: 'name' | 'asks' | 'role'): Promise<WebElement> {
    return (await this.row(row)).findElement(By.css(`.cell.${column}`))
  }

  /** Edits a cell in place: Enter, the new text, Enter. */
  async edit(row: string, column: 'name' | 'asks', text: string): Promise<void> {
    await (await this.cell(row, column)).click()
    await this.press(Key.ENTER)
    await (await this.find('cell-editor')).sendKeys(Key.chord(Key.CONTROL, 'a'), text, Key.ENTER)
  }

  async press(...keys: string[]): Promise<void> {
    await this.driver.actions().sendKeys(...keys).perform()
  }

  async chord(modifier: string, key: string): Promise<void> {
    await this.driver.actions().keyDown(modifier).sendKeys(key).keyUp(modifier).perform()
  }

  async text(name: string): Promise<string> {
    return (await this.find(name)).getText()
  }

  /** Waits until the marked element's text matches. */
  async shows(name: string, pattern: RegExp): Promise<string> {
    return this.textOf(async () => (await this.find(name)).getText(), pattern, name)
  }

  /** Waits until a row's text matches. */
  async rowShows(row: string, pattern: RegExp): Promise<string> {
    return this.textOf(async () => (await this.row(row)).getText(), pattern, `row ${row}`)
  }

  private async textOf(read: () => Promise<string>, pattern: RegExp, what: string): Promise<string> {
    let last = ''
    await this.eventually(async () => pattern.test((last = await read())), `${what} to match ${pattern}`, () => last)
    return last
  }

  /** Reads until what is read is as it should be, and gives it. */
  async eventuallyRead<T>(read: () => Promise<T>, isRight: (value: T) => boolean): Promise<T> {
    let value: T | undefined
    await this.eventually(async () => isRight((value = await read())), 'what is read to be right', () => JSON.stringify(value))
    return value!
  }

  async eventually(holds: () => Promise<boolean>, what: string, seen: () => string = () => ''): Promise<void> {
    const safely = async () => {
      try {
        return await holds()
      } catch (error) {
        // What is looked for may be drawn anew, or not yet.
        if (/^(StaleElementReference|NoSuchElement)Error$/.test((error as Error).name)) return false
        throw error
      }
    }
    try {
      await this.driver.wait(safely, patience)
    } catch (error) {
      throw new Error(`waited in vain for ${what}; last seen: "${seen()}" (${(error as Error).message})`, { cause: error })
    }
  }

  /** Waits until the keyboard is in what has this name, or this mark. */
  focusIs(name: string, by: 'aria-label' | 'data-test' = 'aria-label'): Promise<void> {
    return this.eventually(async () => (await this.driver.switchTo().activeElement().getAttribute(by)) === name, `the focus on ${name}`)
  }

  /** Waits until no dialog is on the screen. */
  async noDialog(): Promise<void> {
    await this.eventually(async () => {
      const dialogs = await this.driver.findElements(By.css('.el-overlay'))
      return !(await Promise.all(dialogs.map((dialog) => dialog.isDisplayed()))).some(Boolean)
    }, 'the dialog to close')
  }

  /** Takes the page's connection to the server away, or gives it back. */
  async cutOff(isCut: boolean): Promise<void> {
    await (this.driver as unknown as chrome.Driver).sendDevToolsCommand('Network.enable', {})
    await (this.driver as unknown as chrome.Driver).sendDevToolsCommand('Network.emulateNetworkConditions', { offline: isCut, latency: 0, downloadThroughput: -1, uploadThroughput: -1 })
  }

  async saved(): Promise<void> {
    await this.shows('save-state', /^Saved$/)
  }

  /** What axe-core finds on the page that is serious, as one line each. */
  async barriers(): Promise<string[]> {
    await this.driver.executeScript(readFileSync('node_modules/axe-core/axe.min.js', 'utf8'))
    return this.driver.executeAsyncScript<string[]>(`
      const done = arguments[arguments.length - 1]
      axe.run(document, { resultTypes: ['violations'] }).then(({ violations }) =>
        done(violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id, nodes }) => id + ': ' + nodes.map(({ target, failureSummary }) => target.join(' ') + ' ' + failureSummary.split('\\n').slice(1, 3).join(' ')).slice(0, 3).join(' | '))))`)
  }

  /** Pastes text into the sheet, as a browser tells of it. */
  async paste(text: string): Promise<void> {
    await this.driver.executeScript(`
      const data = new DataTransfer()
      data.setData('text/plain', arguments[0])
      document.querySelector('[data-test="sheet"]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))`, text)
  }

  /** What the sheet gives to be copied. */
  async copied(): Promise<string> {
    return this.driver.executeScript<string>(`
      const data = new DataTransfer()
      document.querySelector('[data-test="sheet"]').dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }))
      return data.getData('text/plain')`)
  }

  /** Messages of the browser's console that tell of a fault. */
  async faults(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get('browser')
    return entries.filter((entry) => entry.level.name === 'SEVERE').map((entry) => entry.message)
  }
}
