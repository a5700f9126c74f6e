/**
 * What a designer waits for in the browser, on the built application: the first picture, opening a plan, scrolling, typing, and new
 * verdicts after an edit. Frames are told by the browser's own clock for pictures.
 */
import { By, Key } from 'selenium-webdriver'
import { writePlan } from '../src/core/plan/file.ts'
import type { Records } from '../src/core/plan/records.ts'
import { Page } from '../e2e/page.ts'
import { TestServer } from '../e2e/server.ts'

export interface BrowserFigure {
  what: string
  ms: number
  each?: string
}

/** In milliseconds: for how long a plan is looked at before it is edited. The worker rehearses edits in the meantime. */
const reading = 3_000

/** Edits that are made to tell how long new verdicts take. */
const edits = 40

const quantile = (sorted: readonly number[], q: number) => sorted[Math.min(sorted.length - 1, Math.ceil(q * sorted.length) - 1)] ?? NaN
const rising = (numbers: readonly number[]) => [...numbers].sort((a, b) => a - b)

/** Gaps between pictures, from when this is begun until it is ended. */
const watchFrames = `
  window.frames = []
  let last = performance.now()
  const tick = (now) => {
    window.frames?.push(now - last)
    last = now
    if (window.frames) requestAnimationFrame(tick)
  }
  requestAnimationFrame(tick)`
const endFrames = 'const all = window.frames; window.frames = null; return all'

/** Presses a key where the keyboard is and answers how long it took until the verdicts in view, and then all of the changed plan, were painted. */
const pressAndWait = `
  const done = arguments[arguments.length - 1]
  const sheet = document.querySelector('[data-test="sheet"]')
  const began = performance.now()
  const paintedOnce = (isSo) => new Promise((then) => {
    const painted = () => requestAnimationFrame(() => {
      const { port1, port2 } = new MessageChannel()
      port1.onmessage = () => then(performance.now() - began)
      port2.postMessage(null)
    })
    const seen = new MutationObserver(() => {
      if (!isSo()) return
      seen.disconnect()
      painted()
    })
    seen.observe(sheet, { attributes: true })
  })
  const held = document.activeElement?.closest('[data-test="sheet"]') ? document.activeElement : sheet
  held.dispatchEvent(new KeyboardEvent('keydown', { ...arguments[0], bubbles: true, cancelable: true }))
  queueMicrotask(() => Promise.all([paintedOnce(() => sheet.dataset.look), paintedOnce(() => sheet.getAttribute('aria-busy') === 'false')]).then(done))`

class Bench {
  constructor(
    private readonly page: Page,
    private readonly url: string,
    private readonly tell: (figure: BrowserFigure) => void,
  ) {}

  private add(what: string, ms: number, each?: string): void {
    this.tell({ what, ms, ...(each !== undefined && { each }) })
  }

  async firstPaint(): Promise<void> {
    await this.page.open(this.url)
    await this.page.find('new-plan')
    const ms = await this.page.driver.executeScript<number>('return performance.getEntriesByName("first-contentful-paint")[0].startTime')
    this.add('first paint', ms)
  }

  /** From the start of the navigation until rows, and then verdicts, stand there. */
  async open(id: string): Promise<void> {
    const { driver } = this.page
    await this.page.open(`${this.url}plans/${id}`)
    const since = () => driver.executeScript<number>('return performance.now()')
    await driver.wait(async () => (await driver.findElements(By.css('[data-test="row source"]'))).length > 0, 120_000)
    this.add('open the plan: rows', await since())
    await driver.wait(async () => (await driver.findElement(By.css('[data-test="sheet"]')).getAttribute('aria-busy')) === 'false', 120_000)
    this.add('open the plan: verdicts', await since())
  }

  private async frames(what: string, act: () => Promise<void>): Promise<void> {
    await this.page.driver.executeScript(watchFrames)
    await act()
    const all = rising(await this.page.driver.executeScript<number[]>(endFrames))
    this.add(`${what}: longest frame`, all.at(-1)!, `${all.filter((ms) => ms > 50).length} of ${all.length} frames over 50 ms; 95 %: ${quantile(all, 0.95).toFixed(0)} ms`)
  }

  async scroll(): Promise<void> {
    const { driver } = this.page
    await this.frames('scroll', async () => {
      await driver.executeAsyncScript(`
        const done = arguments[0]
        const sheet = document.querySelector('[data-test="sheet"]')
        let left = 200
        const step = () => {
          sheet.scrollTop += left % 20 === 0 ? 20000 : 160
          if (left-- > 0) requestAnimationFrame(step)
          else done()
        }
        step()`)
    })
  }

  async type(): Promise<void> {
    await this.frames('type into the entry line', async () => {
      const field = await this.page.find('entry')
      for (const letter of '3 ice floats 15 xp, 2 coins side') await field.sendKeys(letter)
    })
    await (await this.page.find('entry')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE, Key.ESCAPE)
  }

  /** A letter every tenth of a second, as people type, and what is found after the last. */
  async find(): Promise<void> {
    const field = await this.page.find('find')
    await this.frames('look for rows', async () => {
      for (const letter of 'level >= 4') {
        await field.sendKeys(letter)
        await this.page.driver.sleep(100)
      }
      await this.page.eventually(async () => /found/.test(await this.page.text('found')), 'rows to be found')
    })
    await field.sendKeys(Key.ESCAPE)
  }

  /** Thresholds moved by one, up and down; counts typed in their cell; rows moved down and up: all along the route, by somebody who has looked at the plan for a moment. */
  async edit(): Promise<void> {
    await this.page.driver.sleep(reading)
    await (await this.page.find('sheet')).click()
    const isOdd = (i: number) => i % 2 === 1
    await this.edits('an edit', 'gate', '.hold', (i) => ({ key: isOdd(i) ? 'ArrowLeft' : 'ArrowRight', altKey: true }))
    await this.edits('a count was typed', 'source', '.asks', async () => {
      await this.typeCount()
      return { key: 'Enter' }
    })
    await this.edits('a row was moved', 'source', '.asks', (i) => ({ key: isOdd(i) ? 'ArrowUp' : 'ArrowDown', altKey: true }))
  }

  /** `press`: the key that is pressed last, of which it is measured how long it takes. */
  private async edits(what: string, kind: 'gate' | 'source', part: string, press: (i: number) => object | Promise<object>): Promise<void> {
    const took: [inView: number, all: number][] = []
    for (let i = 0; i < edits; i++) {
      await this.choose(kind, part, i / edits)
      took.push(await this.page.driver.executeAsyncScript<[number, number]>(pressAndWait, await press(i)))
    }
    const [inView, all] = [rising(took.map(([ms]) => ms)), rising(took.map(([, ms]) => ms))]
    const quantiles = (of: number[]) => `median ${quantile(of, 0.5).toFixed(0)} ms, least ${of[0]!.toFixed(0)} ms`
    this.add(`new verdicts in view painted after ${what}: 95 %`, quantile(inView, 0.95), `${quantiles(inView)}; all of them: 95 % ${quantile(all, 0.95).toFixed(0)} ms, ${quantiles(all)}`)
  }

  /** Opens the cell of what the chosen source gives, and puts one more unit into what stands there. */
  private async typeCount(): Promise<void> {
    const { driver } = this.page
    await driver.actions().sendKeys(Key.ENTER).perform()
    await driver.wait(() => driver.executeScript<boolean>(`
      const field = document.activeElement
      if (field.dataset.test !== 'cell-editor') return false
      const count = /^(\\d+) × /.exec(field.value)
      field.value = count ? field.value.replace(/^\\d+/, Number(count[1]) + 1) : '2 × ' + field.value
      field.dispatchEvent(new Event('input'))
      return true`), 10_000, 'no cell to type a count into')
  }

  /** A gate or source that has a part, so far along the sheet: by the cell in which that is, or by its name. */
  private async choose(kind: 'gate' | 'source', part: string, share: number): Promise<void> {
    const { driver } = this.page
    await driver.executeScript('const sheet = document.querySelector(\'[data-test="sheet"]\'); sheet.scrollTop = arguments[0] * (sheet.scrollHeight - sheet.clientHeight)', share)
    await driver.wait(async () => {
      const clicked = await driver.executeScript<boolean>(`
        const box = document.querySelector('[data-test="sheet"]').getBoundingClientRect()
        const row = [...document.querySelectorAll('[data-test="row ' + arguments[0] + '"]')].find((one) => { const { top, bottom } = one.getBoundingClientRect(); return top > box.top && bottom < box.bottom && one.querySelector(arguments[1]) })
        const cell = row?.querySelector('.cell' + arguments[1]) ?? row?.querySelector('.cell.name')
        cell?.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }))
        if (!row) document.querySelector('[data-test="sheet"]').scrollTop += 300
        return row !== undefined`, kind, part)
      return clicked
    }, 10_000, `no ${kind} with ${part} here`)
  }
}

/** All figures of one plan in a browser of its own. */
export async function benchBrowser(records: Records, tell: (figure: BrowserFigure) => void): Promise<void> {
  const server = new TestServer()
  await server.start()
  const page = await Page.opened()
  try {
    await page.driver.manage().setTimeouts({ script: 120_000 })
    const reply = await fetch(`${server.url}api/plans/import`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: writePlan(records) })
    const { id } = (await reply.json()) as { id: string }
    const bench = new Bench(page, server.url, tell)
    await bench.firstPaint()
    await bench.open(id)
    await bench.scroll()
    await bench.type()
    await bench.find()
    await bench.edit()
  } finally {
    await page.quit()
    await server.remove()
  }
}
