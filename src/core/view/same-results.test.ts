import { assert } from 'chai'
import type { GateResult, StopResult } from '../check/result.ts'
import { sameGate, sameStop } from './same-results.ts'

const quantiles = (at: number) => ({ min: at, q05: at + 1, median: at + 2, q95: at + 3, max: at + 4 })
const gate: GateResult = {
  gate: 'hatch', verdict: 'depends', p: 0.5, interval: [0.4, 0.6], exact: false, met: { stop: 1, place: 'depot' }, due: { stop: 2, place: 'flats' }, opened: 3, ready: 4, wait: 5,
  comparisons: [{ text: 'level >= 4', need: 4, has: quantiles(2), margin: 1, holds: 0.5, slack: 6 }],
  from: [{ source: 'round', stop: 0, tally: 'renown', units: 1, total: 60 }], lost: [{ source: 'round', stop: 0, character: 'courier', why: 'top', amount: 5 }],
  debt: [{ source: 'drifts', untaken: 1, repeats: 2, minutes: 3 }],
}
const stop: StopResult = { place: 'depot', minutes: 4, tallies: { renown: quantiles(60), stamps: quantiles(3) }, levels: { courier: quantiles(1) }, positions: { courier: quantiles(1.5) } }

/** The same with another number or word at one place, for each place that has one. */
function eachOther<T>(of: T): T[] {
  const others: T[] = []
  const walk = (part: object, holderIn: (copy: T) => object) => {
    for (const [key, inner] of Object.entries(part) as [string, unknown][]) {
      if (typeof inner === 'object' && inner !== null) {
        walk(inner, (copy) => (holderIn(copy) as Record<string, object>)[key]!)
        continue
      }
      const copy = structuredClone(of)
      Object.assign(holderIn(copy), { [key]: typeof inner === 'number' ? inner + 1 : typeof inner === 'boolean' ? !inner : `${String(inner)}_other` })
      others.push(copy)
    }
  }
  walk(of as object, (copy) => copy as object)
  return others
}

describe('results that are told again', () => {
  it('are the same only where all of them is', () => {
    assert.isTrue(sameGate(gate, structuredClone(gate)) && sameStop(stop, structuredClone(stop)))
    const [gates, stops] = [eachOther(gate), eachOther(stop)]
    assert.isAbove(gates.length, 30)
    for (const other of gates) assert.isFalse(sameGate(gate, other) || sameGate(other, gate), JSON.stringify(other))
    assert.isAbove(stops.length, 20)
    for (const other of stops) assert.isFalse(sameStop(stop, other) || sameStop(other, stop), JSON.stringify(other))
    const [comparison] = gate.comparisons
    const more: Partial<GateResult>[] = [{ interval: null }, { met: null }, { due: null }, { comparisons: [] }, { comparisons: [{ ...comparison!, has: null }] }, { from: [] }, { lost: [] }, { debt: [] }, { error: 'there is no tally "renow"' }]
    for (const other of more) assert.isFalse(sameGate(gate, { ...gate, ...other }) || sameGate({ ...gate, ...other }, gate), JSON.stringify(other))
    assert.isFalse(sameStop(stop, { ...stop, tallies: { ...stop.tallies, trust: quantiles(0) } }))
  })
})
