import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Builder, type WebDriver } from 'selenium-webdriver'
import chrome from 'selenium-webdriver/chrome.js'

const flags = ['--headless=new', '--no-sandbox', '--disable-dev-shm-usage', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--enable-logging']

/** Lines of its log that are told after a crash, without what it misses of a desktop. */
const lastLines = 20
const ofDesktop = /dbus|idle_linux/

/** Headless Chromium with a window of some size, in pixels, and a profile of its own. */
export class Browser {
  private constructor(
    readonly driver: WebDriver,
    private readonly folder: string,
  ) {}

  static async open(width = 1280, height = 800): Promise<Browser> {
    const folder = mkdtempSync(join(tmpdir(), 'tundrift-chromium-'))
    const options = new chrome.Options()
    options.setChromeBinaryPath('/usr/bin/chromium')
    options.addArguments(...flags, `--user-data-dir=${folder}`)
    const driver = await new Builder().forBrowser('chrome').setChromeOptions(options).setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver')).build()
    await (driver as unknown as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: false })
    return new Browser(driver, folder)
  }

  /** What it has last noted of itself. */
  log(): string {
    const file = join(this.folder, 'chrome_debug.log')
    return existsSync(file) ? readFileSync(file, 'utf8').trim().split('\n').filter((line) => !ofDesktop.test(line)).slice(-lastLines).join('\n') : ''
  }

  async close(): Promise<void> {
    // One that has crashed may not answer any more.
    await this.driver.quit().catch(() => {})
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 5 })
  }
}

/** Whether what failed is the browser itself, and not the page in it. */
export function isCrash(error: unknown): boolean {
  return /tab crashed|page crash|not connected to DevTools|closed the connection/.test(String(error))
}
