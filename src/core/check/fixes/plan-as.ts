import { apply, type Diff } from '../../change/diff.ts'
import type { Records } from '../../plan/records.ts'
import { compile, type Compiled } from '../../rules/compile.ts'
import { recompile } from '../../rules/recompile.ts'

/** A plan, with what it is compiled to. */
export interface PlanAs {
  records: Records
  compiled: Compiled
}

/** The same with a change, compiled anew as far as that reaches. */
export function planWith({ records, compiled }: PlanAs, diff: Diff): PlanAs {
  const changed = apply(records, diff)
  return { records: changed, compiled: recompile(compiled, changed, diff.changes)?.compiled ?? compile(changed) }
}
