import { assert } from 'chai'
import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

describe('a designer who starts it from a folder of her own', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tundrift-start-'))
  after(() => rmSync(folder, { recursive: true, force: true }))

  it('has the demo plans there, where she said that plans are kept', async () => {
    const started = spawn(process.execPath, [resolve('dist/tundrift.js'), 'serve', '--data', 'mine', '--port', '0'], { cwd: folder, stdio: ['ignore', 'pipe', 'inherit'] })
    const ended = once(started, 'exit')
    try {
      const url = await new Promise<string>((done, failed) => {
        let printed = ''
        started.stdout.on('data', (chunk: Buffer) => {
          printed += chunk.toString()
          const found = /http:\/\/localhost:\d+\//.exec(printed)
          if (found && printed.includes(`Plans are kept in ${join(folder, 'mine')}.`)) done(found[0])
        })
        started.once('exit', (code) => failed(new Error(`it stopped with ${code}: ${printed}`)))
      })
      const plans = (await (await fetch(`${url}api/plans`)).json()) as { name: string }[]
      assert.include(plans.map(({ name }) => name), 'Lamplight Post')
      assert.include(await (await fetch(url)).text(), '<div id="app">')
      assert.isTrue(existsSync(join(folder, 'mine')))
    } finally {
      started.kill('SIGTERM')
    }
    assert.deepEqual(await ended, [0, null])
  })
})
