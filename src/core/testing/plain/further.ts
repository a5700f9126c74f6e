/** What further units would do for a gate that is not open when it is due (docs/checks.md 1), by trying them. */
import type { WholeSource } from '../../plan/source.ts'
import { whole, type Gate } from './in-plan.ts'
import type { Player } from './player.ts'

export interface Debt {
  source: string
  untaken: number
  repeats: number
  minutes: number
}

export interface Further {
  /** Null where that was not found out. */
  opens: boolean | null
  /** The sources whose further units alone open it. */
  debt: Debt[]
}

const mostAlone = 400
const mostStates = 1_500
const mostRounds = 40

/** `then`: the player of the middle walk at the due moment, at `place`. */
export function furtherUnits(then: Player, gate: Gate, place: string): Further {
  const sources = then.plan.places
    .filter(({ id }) => then.hasVisited(id))
    .flatMap(({ id, contents }) => contents.flatMap(({ source }) => (source ? [{ source: whole(then.plan, source), isHere: id === place }] : [])))
  const debt = sources.flatMap((one) => debtOf(then, gate, one) ?? [])
  // The middle lies between outcomes: it can have what no player ends up with, and then no further unit is needed.
  return { opens: debt.length > 0 || then.hasWhatItAsks(gate) || someOrder(then, gate, sources), debt }
}

interface Near {
  source: WholeSource
  isHere: boolean
}

/** A unit more for this player; false where none can be taken. */
function takeOne(player: Player, { source, isHere }: Near): boolean {
  if (!source.respawns && player.unitsOf(source.id) >= source.count) return false
  if (!player.canTake(source)) return false
  player.take(source, ({ resets }) => resets === 'place' && !isHere)
  return true
}

function debtOf(then: Player, gate: Gate, near: Near): Debt | null {
  const player = then.copy()
  const { id, count, minutes } = near.source
  const left = Math.max(0, count - then.unitsOf(id))
  for (let units = 1; units <= mostAlone && takeOne(player, near); units++) {
    if (!player.hasWhatItAsks(gate)) continue
    const untaken = Math.min(units, left)
    return { source: id, untaken, repeats: units - untaken, minutes: units * minutes }
  }
  return null
}

/** Whether some order of further units does: all are tried, and where there are too many a few long ones; null where none of these does. */
function someOrder(then: Player, gate: Gate, sources: readonly Near[]): boolean | null {
  return everyOrder(then, gate, sources) ?? (longOrders(then, gate, sources) || null)
}

/** Each source until it gives no more or is one of many, in every turn that they can be in. */
function longOrders(then: Player, gate: Gate, sources: readonly Near[]): boolean {
  return sources.some((_, first) => {
    const player = then.copy()
    const turns = [...sources.slice(first), ...sources.slice(0, first)]
    return Array.from({ length: mostRounds }).some(() => turns.some((near) => takeOne(player, near) && player.hasWhatItAsks(gate)))
  })
}

function everyOrder(then: Player, gate: Gate, sources: readonly Near[]): boolean | null {
  const seen = new Set<string>([then.state])
  const queue = [then]
  for (const player of queue) {
    for (const near of sources) {
      const next = player.copy()
      if (!takeOne(next, near)) continue
      if (next.hasWhatItAsks(gate)) return true
      if (seen.has(next.state)) continue
      if (seen.size >= mostStates) return null
      seen.add(next.state)
      queue.push(next)
    }
  }
  return false
}
