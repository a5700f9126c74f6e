import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

/** The built application as a user starts it, on a data folder of its own. */
export class TestServer {
  private readonly parent = mkdtempSync(join(tmpdir(), 'tundrift-e2e-'))
  private child: ChildProcess | null = null
  private port = '0'
  url = ''

  constructor() {
    if (existsSync('dist/empty-data')) cpSync('dist/empty-data', join(this.parent, 'data'), { recursive: true })
  }

  /** Starts it, the second time on the same port as before. */
  async start(): Promise<void> {
    const env = { ...process.env, TUNDRIFT_DATA: join(this.parent, 'data'), PORT: this.port, LOG_LEVEL: 'silent' }
    // Where it is started makes no difference.
    this.child = spawn(process.execPath, [resolve('dist/server.js')], { cwd: this.parent, env, stdio: ['ignore', 'pipe', 'inherit'] })
    this.url = await new Promise<string>((done, failed) => {
      let printed = ''
      this.child!.stdout!.on('data', (chunk: Buffer) => {
        printed += chunk.toString()
        const url = /http:\/\/localhost:(\d+)\//.exec(printed)
        if (url) {
          this.port = url[1]!
          done(url[0])
        }
      })
      this.child!.once('exit', (code) => failed(new Error(`the server stopped with ${code}: ${printed}`)))
    })
  }

  /** Stops it as a user does, and gives the exit code. */
  async stop(): Promise<number | null> {
    const child = this.child
    this.child = null
    if (!child) return null
    return new Promise((done) => {
      child.once('exit', done)
      child.kill('SIGTERM')
    })
  }

  async remove(): Promise<void> {
    await this.stop()
    rmSync(this.parent, { recursive: true, force: true })
  }
}
