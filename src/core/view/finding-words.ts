import type { FindingId } from '../check/findings/finding-rule.ts'
import type { Finding } from '../check/result.ts'

/** Each kind of finding in a few words, as lists and filters name it. */
export const findingWords: Record<FindingId, string> = {
  'gate-sealed': 'sealed gate',
  'gate-short': 'short gate',
  'gate-depends': 'gate that depends',
  unreachable: 'never reached',
  'needs-repeats': 'only with repeats',
  ring: 'gates in a ring',
  stuck: 'stuck for good',
  'forced-grind': 'forced to grind',
  'off-by-one': 'off by one',
  'cap-below-gate': 'cap below a gate',
  'xp-lost': 'XP lost',
  'level-lag': 'level behind its XP',
  'curve-error': 'curve in error',
  'curve-dip': 'dip in a curve',
  'form-gap': 'gap between forms',
  'form-overlap': 'forms that overlap',
  'reset-starves': 'starved by a reset',
  'reset-surprise': 'lost at a reset',
  'reward-chain': 'chain of rewards',
  'text-mismatch': 'text that is wrong',
  'no-text': 'no text for the player',
  'dead-end': 'dead end',
  'one-way-loss': 'lost behind one way',
  unaffordable: 'costs more than there is',
  'side-needed': 'needs side content',
  loose: 'no player will feel it',
  drought: 'long without anything new',
  'pile-up': 'much at once',
  unused: 'not used',
  'zero-yield': 'gives nothing',
}

export function findingWord({ id }: Finding): string {
  return findingWords[id as FindingId] ?? id
}
