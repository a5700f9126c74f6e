import { closeSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { FolderInUseError } from '../errors.ts'

/** Says in a folder that this process has it; the database itself does not notice a second one, and loses rows. */
export class FolderLock {
  private constructor(private readonly file: string) {}

  /** Throws FolderInUseError when another living process holds the folder. A dead one's lock is taken over. */
  static take(folder: string): FolderLock {
    const file = `${folder}.lock`
    for (let tries = 0; tries < 2; tries++) {
      try {
        const handle = openSync(file, 'wx')
        writeSync(handle, String(process.pid))
        closeSync(handle)
        return new FolderLock(file)
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
        const holder = Number(readFileSync(file, 'utf8'))
        if (isAlive(holder)) {
          throw new FolderInUseError(`the data in ${folder} is in use by process ${holder}: stop that Tundrift first, or name another folder in TUNDRIFT_DATA`)
        }
        rmSync(file, { force: true })
      }
    }
    throw new FolderInUseError(`the lock ${file} could not be taken`)
  }

  release(): void {
    rmSync(this.file, { force: true })
  }
}

function isAlive(pid: number): boolean {
  if (!Number.isInteger(pid) || pid <= 0) return false
  if (pid === process.pid) return true
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}
