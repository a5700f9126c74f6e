import type { GameGate } from '../../rules/game.ts'
import type { Spread } from '../sums/spread.ts'
import type { AskedRequirement } from './asked.ts'

/** What is noted of a gate that has been met, while it is followed along strands. */
export interface GateNotes {
  readonly g: number
  readonly gate: GameGate
  readonly asks: AskedRequirement
  /** The stop on whose leaving it is due; null: its due moment was past when it was met. */
  readonly due: number | null
  /** Whether the kind of player opens it, or lets it be though it could be bought. */
  readonly isBought: boolean
  isDueTold: boolean
  /** The tally on whose strand it depends for whom it opens, once it has opened for some and not for others. */
  rides: number | null
  /** The part of that strand for which it has not opened yet; null: all. */
  unopened: Spread | null
  /** The fewest steps with which it has opened for some. */
  openedFrom: number
  /** By comparison that rests on another strand, or on none: how far that had come (SumStrand, `version`; −1: none) when the gate opened for some. */
  readonly beside: Map<number, number>
  /** Whether it has opened for who has the least, and for who has the most. */
  isOpenForLeast: boolean
  isOpenForMost: boolean
  isOpenForAll: boolean
  couldBuy: boolean
  /** Whether the route comes to it no more. */
  isPassed: boolean
  /** For what share of all it is ready, and whether for all. */
  ready: number
  isReady: boolean
  /** Whether it cannot be told on strands: it is only followed on to see when nothing is left to be noted of it. */
  isUntold: boolean
}

export function notesOf(g: number, gate: GameGate, asks: AskedRequirement, due: number | null, isBought: boolean): GateNotes {
  return { g, gate, asks, due, isBought, isDueTold: due === null, rides: null, unopened: null, openedFrom: Infinity, beside: new Map(), isOpenForLeast: false, isOpenForMost: false, isOpenForAll: false, couldBuy: false, isPassed: false, ready: 0, isReady: false, isUntold: false }
}

/** By notes of some gates, copies of them that do not change with them. */
export function copiedNotes(all: readonly GateNotes[]): Map<GateNotes, GateNotes> {
  return new Map(all.map((notes) => [notes, { ...notes, beside: new Map(notes.beside) }]))
}

/** Whether nothing is left to be noted of a gate. */
export function isNoted({ isBought, isDueTold, isOpenForAll, isReady, isPassed }: GateNotes): boolean {
  return isDueTold && isReady && (isOpenForAll || isPassed || !isBought)
}
