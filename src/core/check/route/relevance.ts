import type { Game, GameGate, GameSource, Reads } from '../../rules/game.ts'

/** What can bear on whether a gate opens: its requirement and costs, and whatever feeds those. */
export interface Relevance {
  tallies: Set<number>
  characters: Set<number>
  /** Sources whose number of units taken is asked for. */
  counted: Set<number>
}

export function relevanceOf(game: Game, gate: GameGate): Relevance {
  const relevance: Relevance = { tallies: new Set(), characters: new Set(), counted: new Set() }
  addReads(game, relevance, gate.requires.reads, new Set())
  for (const cost of gate.costs) relevance.tallies.add(cost.tally)
  addFeeds(game, relevance)
  return relevance
}

/** What a source asks for bears on the gate too, once the source does. Returns whether anything was new. */
export function addSourceNeeds(game: Game, relevance: Relevance, source: GameSource): boolean {
  const before = sizeOf(relevance)
  addReads(game, relevance, source.requires.reads, new Set())
  for (const cost of source.takes) relevance.tallies.add(cost.tally)
  addFeeds(game, relevance)
  return sizeOf(relevance) > before
}

export function bears(relevance: { [part in keyof Relevance]: ReadonlySet<number> }, source: GameSource, s: number): boolean {
  return (
    relevance.counted.has(s) ||
    source.yields.some((y) => relevance.tallies.has(y.tally)) ||
    source.takes.some((cost) => relevance.tallies.has(cost.tally)) ||
    source.caps.some((cap) => (cap.character === null ? relevance.characters.size > 0 : relevance.characters.has(cap.character)))
  )
}

function sizeOf({ tallies, characters, counted }: Relevance): number {
  return tallies.size + characters.size + counted.size
}

function addReads(game: Game, relevance: Relevance, reads: Reads, seen: Set<number>): void {
  for (const t of reads.tallies) relevance.tallies.add(t)
  for (const c of reads.characters) relevance.characters.add(c)
  for (const s of reads.sources) relevance.counted.add(s)
  for (const g of reads.gates) {
    if (seen.has(g) || !game.gates[g]!.live) continue
    seen.add(g)
    addReads(game, relevance, game.gates[g]!.requires.reads, seen)
  }
}

/** Levels come from experience, and amounts from the rewards of levels. */
function addFeeds(game: Game, { tallies, characters }: Relevance): void {
  for (let grown = true; grown; ) {
    const before = tallies.size + characters.size
    game.characters.forEach((character, c) => {
      if (characters.has(c) && character.tally >= 0) tallies.add(character.tally)
      if (character.rewards.some((reward) => reward.yields.some((y) => tallies.has(y.tally)))) characters.add(c)
    })
    grown = tallies.size + characters.size > before
  }
}
