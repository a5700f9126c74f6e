import type { MissingTally } from '../../core/change/missing-tally.ts'

/** The kinds as which a missing tally may be added, as options in their order. */
export function missingOptions({ id, kinds }: MissingTally): { text: string; detail: string }[] {
  return kinds.map((kind) => ({ text: id, detail: `add it: a new ${kind === 'experience' ? 'kind of experience' : kind}` }))
}
