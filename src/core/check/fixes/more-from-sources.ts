import { setFields } from '../../change/edits.ts'
import { mostUnits, unitsPerOne } from '../../plan/basics.ts'
import { labelOf } from '../../plan/label-of.ts'
import { wholeSource } from '../../plan/source.ts'
import type { GameSource } from '../../rules/game.ts'
import { numberText } from '../../view/numbers.ts'
import { bears, relevanceOf } from '../route/relevance.ts'
import type { Proposal } from './fix.ts'
import { leastThat, withSource, type Trial } from './trial.ts'

/** Sources tried for one gate: those that lie nearest before it. */
const mostTried = 8
const mostMore = 4_096

/** (b) The sources: for each earlier one that gives what is asked for, how many more units, or how much more a unit. */
export function* sourceFixes(trial: Trial, due: number): Generator<Proposal> {
  const { game } = trial
  const [route, profile, g] = trial.parts()
  const gate = game.gates[g]!
  const relevance = relevanceOf(game, gate)
  const stops = route.stops.slice(0, due + 1)
  const isTaken = (source: GameSource) => (source.main ? profile.main : profile.side) === 1
  const gives = (source: GameSource) => source.yields.some((y) => y.max > 0 && relevance.tallies.has(y.tally))
  const earlier = [...new Set(stops.reverse())].flatMap((place) => game.places[place]!.contents.flatMap(({ source }) => (source === null ? [] : [source])).reverse())
  const tried = earlier.filter((s) => isTaken(game.sources[s]!) && gives(game.sources[s]!) && bears(relevance, game.sources[s]!, s)).slice(0, mostTried)
  for (const s of tried) {
    yield* moreUnits(trial, s)
    yield* moreAUnit(trial, s, (t) => relevance.tallies.has(t))
  }
}

function* moreUnits(trial: Trial, s: number): Generator<Proposal> {
  const source = trial.game.sources[s]!
  const more = leastThat(mostMore, (n) => trial.isHopeful(withSource(trial.game, s, { count: source.count + n })))
  if (more === null || source.count + more > mostUnits) return
  const says = `${numberText(more)} more of ${labelOf(source)} (${numberText(source.count + more)} instead of ${numberText(source.count)})`
  const diff = setFields(trial.records, 'source', source.key, { count: source.count + more }, `${numberText(more)} more of ${labelOf(source)}`)
  if (trial.mends(diff)) yield { kind: 'source', says, diff }
}

function* moreAUnit(trial: Trial, s: number, counts: (tally: number) => boolean): Generator<Proposal> {
  const source = trial.game.sources[s]!
  const at = source.yields.findIndex((y) => y.max > 0 && counts(y.tally))
  const raised = (n: number) => source.yields.map((y, i) => (i === at ? { ...y, min: y.min + n * unitsPerOne, max: y.max + n * unitsPerOne } : y))
  const more = leastThat(mostMore, (n) => trial.isHopeful(withSource(trial.game, s, { yields: raised(n) })))
  if (more === null) return
  const row = trial.records.source.get(source.key)!
  const pattern = row.pattern === undefined ? undefined : [...trial.records.pattern.values()].find(({ id }) => id === row.pattern)
  const yields = wholeSource(row, pattern).yields.map((y, i) => (i === at ? { ...y, min: y.min + more, max: y.max + more } : y))
  const { tally, min, max } = yields[at]!
  const amount = min === max ? numberText(min) : `${numberText(min)} to ${numberText(max)}`
  const says = `${labelOf(source)} gives ${amount} ${tally} a unit, ${numberText(more)} more`
  const diff = setFields(trial.records, 'source', source.key, { yields }, `${labelOf(source)} gives ${numberText(more)} more ${tally}`)
  if (trial.mends(diff)) yield { kind: 'source', says, diff }
}
