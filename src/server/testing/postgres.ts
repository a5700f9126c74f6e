import { spawnSync, type SpawnSyncReturns } from 'node:child_process'
import { chownSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const programs = '/usr/lib/postgresql/15/bin'

/** Whether this machine has a PostgreSQL server that a test can start. */
export const hasPostgres = existsSync(join(programs, 'initdb'))

/** A PostgreSQL server of its own for a test, with nothing in it, reached from this machine alone. */
export class TestPostgres {
  private readonly folder = mkdtempSync(join(tmpdir(), 'tundrift-postgres-'))
  private readonly user = this.unprivileged()
  private port = 0

  get url(): string {
    return `postgres://tundrift@127.0.0.1:${this.port}/postgres`
  }

  async start(): Promise<void> {
    this.port = await freePort()
    this.run('initdb', '-D', join(this.folder, 'data'), '-U', 'tundrift', '-A', 'trust', '--no-sync')
    this.run('pg_ctl', 'start', '-w', '-D', join(this.folder, 'data'), '-l', join(this.folder, 'log'), '-o', `-p ${this.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c fsync=off`)
  }

  /** Breaks all connections, as a server does that is started again. */
  restart(): void {
    this.run('pg_ctl', 'restart', '-w', '-m', 'fast', '-D', join(this.folder, 'data'), '-l', join(this.folder, 'log'))
  }

  remove(): void {
    this.run('pg_ctl', 'stop', '-m', 'immediate', '-D', join(this.folder, 'data'))
    rmSync(this.folder, { recursive: true, force: true })
  }

  /** PostgreSQL does not run as root. */
  private unprivileged(): { uid: number; gid: number } | null {
    if (process.getuid?.() !== 0) return null
    const [, , uid, gid] = /^postgres:.*$/m.exec(readFileSync('/etc/passwd', 'utf8'))![0].split(':')
    chownSync(this.folder, Number(uid), Number(gid))
    return { uid: Number(uid), gid: Number(gid) }
  }

  private run(program: string, ...words: string[]): SpawnSyncReturns<Buffer> {
    const done = spawnSync(join(programs, program), words, { cwd: this.folder, stdio: ['ignore', 'ignore', 'ignore'], ...this.user })
    if (done.status !== 0) throw new Error(`${program} failed: ${existsSync(join(this.folder, 'log')) ? readFileSync(join(this.folder, 'log'), 'utf8') : String(done.error ?? done.status)}`)
    return done
  }
}

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo
      server.close(() => done(port))
    })
  })
}
