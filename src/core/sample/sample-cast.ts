import type { Curve } from '../plan/curve.ts'

type Raw = Record<string, unknown>

/** The tallies, patterns, curves and characters that every made-up plan has: one of each kind and option. */
export const sampleTallies: Raw[] = [
  { id: 'renown', name: 'Renown', kind: 'experience', start: 0, min: 0, max: null, resets: 'never', saved: true },
  { id: 'trust', name: 'Trust', kind: 'experience', start: 0, min: 0, max: null, resets: 'never', saved: true },
  { id: 'stamps', name: 'Stamps', kind: 'currency', start: 5, min: 0, max: null, resets: 'never', saved: true },
  { id: 'lamp_glass', name: 'Lamp glass', kind: 'collectible', start: 0, min: 0, max: null, resets: 'never', saved: true },
  { id: 'punctuality', name: 'Punctuality', kind: 'score', start: 0, min: 0, max: 100, resets: 'place', saved: true },
  { id: 'breath', name: 'Breath', kind: 'score', start: 3, min: 0, max: 3, resets: 'retry', saved: false },
  { id: 'ice_chart', name: 'Ice chart', kind: 'flag', start: 0, min: 0, max: 1, resets: 'never', saved: true },
]

export const samplePatterns: Raw[] = [
  { id: 'drift', name: 'Drift dug out', kind: 'event', yields: [{ tally: 'renown', min: 18, max: 18 }], takes: [], respawns: false, minutes: 1.5 },
  { id: 'lamp', name: 'Lamp relit', kind: 'event', yields: [{ tally: 'renown', min: 24, max: 24 }, { tally: 'lamp_glass', min: 1, max: 1 }], minutes: 2 },
]

const dogCurve: Raw = {
  id: 'dog_level', name: 'Lead dog level', firstLevel: 1, maxLevel: 12, counts: 'total', rule: { kind: 'table', values: [20, 46, 79, 120, 170, 230, 301, 384, 480, 590, 715] },
  rounding: 'none', levelUpAt: 'exceeded', remainder: 'carry', levelsPerGain: 'one', atTop: 'hold',
}

export function sampleCast(curve: Curve, places: readonly string[]): { curves: Raw[]; characters: Raw[] } {
  const courier = {
    id: 'courier', name: 'Courier', experience: 'renown', curve: curve.id, startLevel: null, joins: null, cap: null,
    stats: [{ id: 'stamina', name: 'Stamina', start: 40, growth: 'add', by: 6, rounding: 'none' }],
    forms: [{ id: 'novice', name: 'Novice coat', from: 1, to: 9 }, { id: 'carrier', name: 'Carrier coat', from: 10, to: curve.maxLevel }],
    rewards: [{ level: 5, yields: [{ tally: 'stamps', min: 2, max: 2 }] }],
  }
  const bracken = {
    id: 'bracken', name: 'Bracken', experience: 'trust', curve: 'dog_level', startLevel: 1, joins: places[Math.min(2, places.length - 1)], cap: 4,
    stats: [{ id: 'pull', name: 'Pull', start: 8, growth: 'multiply', by: 1.2, rounding: 'nearest' }],
    forms: [{ id: 'pup', name: 'Pup', from: 1, to: 4 }, { id: 'leader', name: 'Leader', from: 5, to: 12 }],
    rewards: [{ level: 'every', yields: [{ tally: 'breath', min: 1, max: 1 }] }],
  }
  return { curves: [curve, dogCurve], characters: [courier, bracken] }
}
