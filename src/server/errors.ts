import type { Conflict } from '../core/change/diff.ts'

/** Failures that a user of the interface can expect; problem.ts turns each into a status and a problem document. */
export class NotFoundError extends Error {
  override readonly name = 'NotFoundError'
}

/** What was sent does not have the right shape or meaning: every fault with its path. */
export class InvalidError extends Error {
  override readonly name = 'InvalidError'
  constructor(
    message: string,
    readonly issues: { path: string; message: string }[],
  ) {
    super(message)
  }
}

/** A step was made on something that stands differently now. */
export class ClashError extends Error {
  override readonly name = 'ClashError'
  constructor(readonly conflicts: Conflict[]) {
    super('the plan has changed in the same fields; nothing was written')
  }
}

/** The request does not come from this application's own page. */
export class ForeignRequestError extends Error {
  override readonly name = 'ForeignRequestError'
}

/** The database that the server is to use does not let itself be used. */
export class DatabaseUnreachableError extends Error {
  override readonly name = 'DatabaseUnreachableError'
}

/** The data folder is in use by another process. */
export class FolderInUseError extends Error {
  override readonly name = 'FolderInUseError'
}
