import { computed, type ComputedRef } from 'vue'
import { asksText, givesText } from '../../../core/exchange/row-text.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder } from '../../../core/plan/records.ts'
import { wholeFrom } from '../../../core/plan/source.ts'
import { missingWords, type WalkMove } from '../../../core/play/walk.ts'
import { canOpen, canTake, closedOnWay, isOpen, standsAt } from '../../../core/rules/engine.ts'
import { countText } from '../../../core/view/numbers.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useWalkStore } from '../../stores/walk.ts'

/** Something that can be done where the walk is. */
export interface WalkItem {
  key: string
  kind: 'source' | 'gate' | 'way'
  name: string
  detail: string
  note: string
  can: boolean
  done: boolean
  move: WalkMove
  /** Everything of it at once. */
  all: WalkMove
  /** Whether it is on the way, not beside it. */
  main: boolean
  gate?: number
}

/** What can be done where the walk is, in the order of the place: its contents, gates of anywhere, ways on. */
export function useWalkItems(): ComputedRef<WalkItem[]> {
  const plan = usePlanStore()
  const walk = useWalkStore()

  function gateItem(g: number): WalkItem {
    const { game, state } = walk
    const gate = game!.gates[g]!
    const opened = isOpen(game!, state!, g)
    return {
      key: gate.key, kind: 'gate', name: labelOf(gate), detail: asksText(plan.records!.gate.get(gate.key)!) || 'asks for nothing', can: !gate.live && canOpen(game!, state!, g), done: opened, main: gate.main,
      note: opened ? 'open' : missingWords(game!, state!, g), move: { open: gate.id }, all: { open: gate.id }, gate: g,
    }
  }

  function wayItem(passage: number, to: number): WalkItem {
    const { game, state } = walk
    const closed = closedOnWay(game!, state!, passage, to)
    const move = { go: game!.passages[passage]!.id }
    return { key: `way ${passage}`, kind: 'way', name: labelOf(game!.places[to]!), detail: closed.length ? `barred by ${closed.map((g) => labelOf(game!.gates[g]!)).join(' and ')}` : 'open', note: state!.visited[to] ? 'been there' : '', can: closed.length === 0, done: false, main: false, move, all: move }
  }

  return computed((): WalkItem[] => {
    const { game, state, place } = walk
    const { records } = plan
    if (!game || !state || !place || !records) return []
    const wholeOf = wholeFrom(inOrder(records, 'pattern'))
    const sourceItem = (s: number): WalkItem => {
      const source = game.sources[s]!
      const whole = wholeOf(records.source.get(source.key)!)
      const left = Math.max(0, source.count - state.taken[s]!)
      const can = canTake(game, state, s)
      return {
        key: source.key, kind: 'source', name: labelOf(source), detail: givesText({ ...whole, count: 1, respawns: false }), can, done: left === 0 && !source.respawns, main: source.main,
        note: `${left} of ${countText(source.count, 'unit')} left${left === 0 && source.respawns ? ', repeats' : ''}${source.main ? '' : ', side'}${!can && left > 0 && source.requires.text ? `; needs ${source.requires.text}` : ''}`,
        move: { take: source.id, units: 1 }, all: { take: source.id, units: Math.max(1, left) },
      }
    }
    const anywhere = game.anywhere.filter((g) => standsAt(game, game.gates[g]!, state.place))
    return [
      ...place.contents.map(({ source, gate }) => (gate !== null ? gateItem(gate) : sourceItem(source!))),
      ...anywhere.map(gateItem),
      ...place.ways.map(({ passage, to }) => wayItem(passage, to)),
    ]
  })
}
