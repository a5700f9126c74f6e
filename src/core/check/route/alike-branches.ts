import { RowTable } from '../row-table.ts'
import { noted, type Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'

/** Of a gate so many bits tell branches apart: whether it is open, and what has been noted; so many gates go into a word. */
const bitsOfGate = 5
const gatesInWord = 6
const isOpen = 16
const openAndNoted = 31
const notedOnly = 15

/** A word's bits and those of a number of 64 bits, the same in memory. */
const real = new Float64Array(1)
const halves = new Int32Array(real.buffer)

/**
 * Makes one of branches that are alike from some point on. What can bear on how a branch goes on from a stop is written as a row of words:
 * two with the same row are alike. Of a source only the units still wanted count, and only where the route can still come to them.
 */
export class AlikeBranches {
  private readonly table = new RowTable(1)
  private stop = 0
  private waiting: readonly number[] = []
  private sources: readonly number[] = []
  /** Gates that are asked after, and which bits of each. */
  private gates: readonly number[] = []
  private bits: readonly number[] = []
  private words = 0

  constructor(private readonly itinerary: Itinerary) {}

  /** To be told from which stop on branches are compared. `waiting`: gates of which something is still to be noted. */
  begin(stop: number, waiting: readonly number[]): void {
    this.stop = stop
    this.words = 0
    this.waiting = waiting
  }

  /** The first of each that are alike, with the weight of all of them; `end` is given those that no longer go on. */
  merged(branches: Branch[], end: (branch: Branch) => void): Branch[] {
    if (branches.length < 2) return branches
    const { table } = this
    table.begin(this.words ||= this.wordsOfRow())
    const apart: Branch[] = []
    for (const branch of branches) {
      this.write(branch)
      const row = table.add()
      if (row === apart.length) apart.push(branch)
      else {
        apart[row]!.weight += branch.weight
        end(branch)
      }
    }
    return apart
  }

  /** Worked out when branches are first compared at a stop: at most stops there is one only. */
  private wordsOfRow(): number {
    const { tallies, characters, counted, openAt } = this.itinerary
    const { sources, gates } = openAt(this.stop)
    this.sources = sources
    this.gates = [...gates, ...this.waiting]
    this.bits = this.gates.map((_, i) => (i < gates.length ? openAndNoted : notedOnly))
    return 1 + 2 * tallies.length + 4 * characters.length + counted.length + sources.length + Math.ceil(this.gates.length / gatesInWord)
  }

  /** Writes what tells a branch apart behind the last row. */
  private write({ state, wanted, notes, changed }: Branch): void {
    const { table: { rows, next }, itinerary: { tallies, characters, counted }, sources, gates, bits } = this
    let at = next
    const write = (n: number) => {
      // So that −0 is 0.
      real[0] = n + 0
      rows[at++] = halves[0]!
      rows[at++] = halves[1]!
    }
    rows[at++] = changed ? 1 : 0
    for (let i = 0; i < tallies.length; i++) write(state.tallies[tallies[i]!]!)
    for (let i = 0; i < characters.length; i++) {
      const c = characters[i]!
      rows[at++] = state.level[c]!
      rows[at++] = state.cap[c]!
      write(state.xp[c]!)
    }
    for (let i = 0; i < counted.length; i++) rows[at++] = state.taken[counted[i]!]!
    for (let i = 0; i < sources.length; i++) {
      const s = sources[i]!
      rows[at++] = wanted[s] === -1 ? -1 : wanted[s]! - state.taken[s]!
    }
    let word = 0
    for (let i = 0; i < gates.length; i++) {
      const g = gates[i]!
      word = (word << bitsOfGate) | (((state.opened[g] ? isOpen : 0) | outstanding(notes[g]!)) & bits[i]!)
      if ((i + 1) % gatesInWord !== 0 && i + 1 < gates.length) continue
      rows[at++] = word
      word = 0
    }
  }
}

/** Notes that still make a difference: once the due moment is past, whether it could have been bought does not. */
function outstanding(notes: number): number {
  return notes & noted.due ? notes & ~noted.couldBuy : notes
}
