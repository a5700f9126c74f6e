import { readdirSync, readFileSync } from 'node:fs'
import { assert } from 'chai'
import { readPlanValue } from '../../plan/file.ts'
import { compile } from '../../rules/compile.ts'
import { canOpen, canTake, enter, gatesOnWay, isOpen, standsAt } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { newState, type State } from '../../rules/state.ts'
import type { Case } from '../../testing/compare-case.ts'
import type { Move } from '../result.ts'
import { make } from './going.ts'
import { checkLockouts, defaultBound } from './lockout-check.ts'
import { Space } from './space.ts'

const folder = new URL('../../testing/cases/', import.meta.url)

/** Whether a move can be made by a player who stands where the state says. */
function isPossible(game: Game, state: State, move: Move, repeats: boolean): boolean {
  if ('go' in move) {
    const p = game.passages.findIndex((found) => found.id === move.go)
    const { from, to, twoWay } = game.passages[p]!
    const target = state.place === from ? to : twoWay && state.place === to ? from : -1
    return target >= 0 && gatesOnWay(game, p, target).every((g) => isOpen(game, state, g))
  }
  if ('open' in move) {
    const g = game.gates.findIndex((gate) => gate.id === move.open)
    return standsAt(game, game.gates[g]!, state.place) && canOpen(game, state, g)
  }
  const s = game.sources.findIndex((source) => source.id === move.take)
  const source = game.sources[s]!
  return source.place === state.place && canTake(game, state, s) && (repeats || state.taken[s]! < source.count)
}

/** Whether any play from a state leads to the goal, by plain search without any of the reductions but the search's own scope. */
function canWin(game: Game, from: State, repeats: boolean, most = 60_000): boolean | null {
  const space = new Space(game)
  const seen = new Set([space.key(from)])
  const queue = [from]
  for (const state of queue) {
    if (space.isWon(state)) return true
    if (seen.size > most) return null
    for (const step of space.stepsHere(state)) {
      if (step.repeat && !repeats) continue
      const key = space.key(step.state)
      if (!seen.has(key)) {
        seen.add(key)
        queue.push(step.state)
      }
    }
  }
  return false
}

describe('lock-outs', () => {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json') && !/^(bigger|rounding|hand_rounding|mixed_1)/.test(name))) {
    const known = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case
    const read = readPlanValue(known.plan)
    if (!read.ok) throw new Error(file)
    const { game } = compile(read.records)
    const result = checkLockouts(game, { ...defaultBound, states: 250_000 })
    for (const part of ['stuck', 'forcedGrind'] as const) {
      const { witness } = result[part]
      if (!witness) continue
      it(`${file.replace('.json', '')}: the witness of ${part} can be played, and ends where it says`, () => {
        const state = newState(game)
        enter(game, state, game.start, plainPlay)
        for (const move of witness) {
          assert.isTrue(isPossible(game, state, move, part === 'stuck'), JSON.stringify(move))
          make(game, state, move)
        }
        if (part === 'stuck') assert.isNotTrue(canWin(game, state, true))
        else {
          assert.isNotTrue(canWin(game, state, false))
          assert.isNotFalse(canWin(game, state, true))
        }
        assert.isString(result[part].missing)
      })
    }
  }

  it('are not decided past the bound, never ruled out', () => {
    const known = JSON.parse(readFileSync(new URL('costs_1.json', folder), 'utf8')) as Case
    const read = readPlanValue(known.plan)
    if (!read.ok) throw new Error('costs_1')
    const { stuck, forcedGrind } = checkLockouts(compile(read.records).game, { ...defaultBound, states: 2 })
    assert.notEqual(stuck.result, 'none')
    assert.notEqual(forcedGrind.result, 'none')
  })
})
