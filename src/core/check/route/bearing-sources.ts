import type { Game } from '../../rules/game.ts'
import { sourcesOf } from './alike-sources.ts'
import { addSourceNeeds, bears, type Relevance } from './relevance.ts'

const none: ReadonlySet<number> = new Set()

/** The sources at places visited that bear on a gate, or on another source that does. What bears on those in turn is added to what is relevant. */
export class BearingSources {
  /** Of those that do alike, the first. */
  readonly unlike: readonly number[]
  /** By what one unit does (see sourcesOf): whether that bears on the gate. */
  private readonly doesBear: Uint8Array
  private gathered: readonly number[] | null = null

  constructor(
    private readonly game: Game,
    private readonly relevance: Relevance,
    private readonly visited: Uint8Array,
  ) {
    this.doesBear = new Uint8Array(sourcesOf(game).doings)
    this.unlike = this.found()
  }

  private found(): number[] {
    const { game, relevance, visited } = this
    const { place, doing } = sourcesOf(game)
    const first = this.firsts()
    const counted = () => [...relevance.counted].filter((s) => visited[place[s]!] && !game.sources[s]!.error)
    for (let grown = true; grown; ) {
      grown = false
      for (const s of [...first, ...counted()]) {
        if (bears(relevance, game.sources[s]!, s) && addSourceNeeds(game, relevance, game.sources[s]!)) grown = true
      }
    }
    // Of those that do alike all bear on it, or none.
    const bearing = first.filter((s) => bears({ ...relevance, counted: none }, game.sources[s]!, s))
    for (const s of bearing) this.doesBear[doing[s]!] = 1
    return [...bearing, ...counted()]
  }

  private firsts(): number[] {
    const { sound, place, doing, doings } = sourcesOf(this.game)
    const first: number[] = []
    const isSeen = new Uint8Array(doings)
    for (let i = 0; i < sound.length; i++) {
      const s = sound[i]!
      if (!this.visited[place[s]!] || isSeen[doing[s]!]) continue
      isSeen[doing[s]!] = 1
      first.push(s)
    }
    return first
  }

  /** All of them: they are looked through when they are first asked for, for there may be many. */
  get all(): readonly number[] {
    return (this.gathered ??= this.gather())
  }

  isAll(sources: readonly number[]): boolean {
    return sources === this.gathered
  }

  private gather(): number[] {
    const { relevance: { counted }, doesBear, visited } = this
    const { sound, place, doing } = sourcesOf(this.game)
    return Array.from(sound.filter((s) => visited[place[s]!] === 1 && (doesBear[doing[s]!] === 1 || counted.has(s))))
  }
}
