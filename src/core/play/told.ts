import { labelOf } from '../plan/label-of.ts'
import { fromUnits } from '../rules/compile.ts'
import type { Game } from '../rules/game.ts'
import { countText, marginText, numberText } from '../view/numbers.ts'
import type { WalkStep } from './walk.ts'

const tidy = (n: number) => Math.round(n * 10_000) / 10_000

/** What a move did, as a player would notice it: amounts, level-ups with stats, forms, losses, resets. */
export function toldOf(game: Game, { events }: WalkStep, statsAt: (character: number, level: number) => { name: string; value: number }[] = () => []): string[] {
  const amounts = new Map<number, number>()
  const told: string[] = []
  const levels = new Map<number, { from: number; to: number }>()
  const behind = new Map<number, number>()
  for (const event of events) {
    if (event.type === 'changed') amounts.set(event.tally, (amounts.get(event.tally) ?? 0) + fromUnits(event.by))
    if (event.type === 'level') {
      levels.set(event.character, { from: levels.get(event.character)?.from ?? event.to - 1, to: event.to })
      // What waited before this unit may wait no more.
      behind.delete(event.character)
    }
    if (event.type === 'lost') told.push(`${numberText(tidy(fromUnits(event.amount)))} XP of ${nameOf(game, event.character)} lost ${event.why === 'top' ? 'at the limit' : 'at the level-up'}`)
    if (event.type === 'behind') behind.set(event.character, event.levels)
    if (event.type === 'joined') told.push(`${nameOf(game, event.character)} joins`)
    if (event.type === 'cap') told.push(`the cap of ${nameOf(game, event.character)} is ${event.limit}`)
    if (event.type === 'reset' && event.from !== game.tallies[event.tally]!.start) told.push(`${tallyName(game, event.tally)} back to ${numberText(fromUnits(game.tallies[event.tally]!.start))} (was ${numberText(fromUnits(event.from))})`)
  }
  const gains = [...amounts].filter(([, by]) => Math.abs(by) > 1e-9).map(([t, by]) => `${marginText(tidy(by))} ${tallyName(game, t)}`)
  const ups = [...levels].map(([c, { from, to }]) => `${nameOf(game, c)} level ${from} → ${to}${formChange(game, c, from, to)}${statChange(statsAt(c, from), statsAt(c, to))}`)
  const waiting = [...behind].map(([c, n]) => `the next gains bring ${nameOf(game, c)} ${countText(n, 'level')} more`)
  return [...gains, ...ups, ...waiting, ...told]
}

function nameOf(game: Game, c: number): string {
  return labelOf(game.characters[c]!)
}
function tallyName(game: Game, t: number): string {
  return labelOf(game.tallies[t]!)
}

function formChange(game: Game, c: number, from: number, to: number): string {
  const formAt = (level: number) => game.characters[c]!.forms.find((form) => form.from <= level && level <= form.to)?.name
  const [before, after] = [formAt(from), formAt(to)]
  return after !== undefined && after !== before ? `, now ${after}` : ''
}

function statChange(before: readonly { name: string; value: number }[], after: readonly { name: string; value: number }[]): string {
  const changed = after.flatMap((stat, i) => (before[i] && before[i]!.value !== stat.value ? [`${stat.name} ${numberText(before[i]!.value)} → ${numberText(stat.value)} (${marginText(tidy(stat.value - before[i]!.value))})`] : []))
  return changed.length ? `; ${changed.join(', ')}` : ''
}
