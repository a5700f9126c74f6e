import type { LineFormat } from '../../../core/exchange/lines.ts'
import { capLines, costLines, formLines, rewardLines, statLines, yieldLines } from '../../../core/exchange/lines.ts'
import { roundings } from '../../../core/plan/curve.ts'
import { dueMoments, gateKinds } from '../../../core/plan/gate.ts'
import type { KindName } from '../../../core/plan/kinds.ts'
import { placeKinds } from '../../../core/plan/place.ts'
import { sourceKinds } from '../../../core/plan/source.ts'
import { tallyKinds } from '../../../core/plan/tally.ts'

interface Base {
  field: string
  label: string
  help?: string
  unit?: string
}

/** How one field of a record is edited. */
export type FieldEntry =
  | (Base & { control: 'id' | 'text' | 'longtext' | 'requirement' | 'switch' | 'rule' | 'guards' | 'stops' })
  | (Base & { control: 'number'; nullable?: string; optional?: boolean })
  | (Base & { control: 'select'; options: readonly string[]; optional?: boolean })
  | (Base & { control: 'yesno'; optional?: boolean })
  | (Base & { control: 'ref'; kind: KindName; nullable?: string })
  | (Base & { control: 'lines'; format: LineFormat<never>; optional?: boolean; rows: number })

const id: FieldEntry = { field: 'id', label: 'Id', control: 'id', help: 'Renaming it here renames it in every reference and requirement.' }
const name: FieldEntry = { field: 'name', label: 'Name', control: 'text' }
const minutes = (label: string, optional = false): FieldEntry => ({ field: 'minutes', label, control: 'number', unit: 'min', optional })
const lines = (field: string, label: string, format: LineFormat<never>, rows: number, optional = false, help = ''): FieldEntry => ({ field, label, control: 'lines', format, rows, optional, help })
const role: FieldEntry = { field: 'role', label: 'Role', control: 'select', options: ['main', 'side'] }
const requires: FieldEntry = { field: 'requires', label: 'Requires', control: 'requirement' }
const caps = lines('caps', 'New level caps', capLines as never, 2, false, 'character (or all) and level, one a line')

/** Every field of every kind, in the words of docs/model.md. */
export const fieldTable: Record<KindName, readonly FieldEntry[]> = {
  tally: [
    name, id,
    { field: 'kind', label: 'Kind', control: 'select', options: tallyKinds },
    { field: 'start', label: 'In a new game', control: 'number' },
    { field: 'min', label: 'Never below', control: 'number', nullable: 'unbounded' },
    { field: 'max', label: 'Never above', control: 'number', nullable: 'unbounded' },
    { field: 'resets', label: 'Resets', control: 'select', options: ['never', 'place', 'retry'], help: 'place: each time a place is entered; retry: when the player fails and tries again' },
    { field: 'saved', label: 'Survives quitting', control: 'switch' },
  ],
  curve: [
    name, id,
    { field: 'firstLevel', label: 'First level', control: 'number' },
    { field: 'maxLevel', label: 'Last level', control: 'number' },
    { field: 'counts', label: 'Values count', control: 'select', options: ['step', 'total'], help: 'step: XP from one level to the next; total: XP since the start' },
    { field: 'rule', label: 'Rule', control: 'rule' },
    { field: 'rounding', label: 'Rounding', control: 'select', options: roundings, help: 'of every value as it is made; nearest is half up' },
    { field: 'levelUpAt', label: 'Level up when the value is', control: 'select', options: ['reached', 'exceeded'] },
    { field: 'remainder', label: 'What is over at a level-up', control: 'select', options: ['carry', 'clear'] },
    { field: 'levelsPerGain', label: 'Levels for one gain', control: 'select', options: ['many', 'one'] },
    { field: 'atTop', label: 'A gain at the level limit', control: 'select', options: ['discard', 'hold', 'bank'], help: 'discard: lost; hold: fills up to the next level; bank: all is kept' },
  ],
  character: [
    name, id,
    { field: 'experience', label: 'Listens to', control: 'ref', kind: 'tally' },
    { field: 'curve', label: 'Curve', control: 'ref', kind: 'curve' },
    { field: 'startLevel', label: 'Starts at level', control: 'number', nullable: "the curve's first" },
    { field: 'joins', label: 'Joins at', control: 'ref', kind: 'place', nullable: 'from the start' },
    { field: 'cap', label: 'Cap at the start', control: 'number', nullable: 'none' },
    lines('rewards', 'Level rewards', rewardLines as never, 3, false, 'level (or every), a colon, and what it gives'),
    lines('stats', 'Stats', statLines as never, 3, false, 'name, start, and + or × what each level adds'),
    lines('forms', 'Forms', formLines as never, 3, false, 'name and the levels at which it is shown'),
  ],
  pattern: [
    name, id,
    { field: 'kind', label: 'Kind', control: 'select', options: sourceKinds, optional: true },
    lines('yields', 'A unit gives', yieldLines as never, 2, true),
    lines('takes', 'A unit takes', costLines as never, 1, true),
    { field: 'respawns', label: 'Respawns', control: 'yesno', optional: true },
    minutes('Minutes a unit', true),
  ],
  place: [
    name, id,
    { field: 'kind', label: 'Kind', control: 'select', options: placeKinds },
    { field: 'goal', label: 'An end of the game', control: 'switch' },
    minutes('To cross it once'),
  ],
  passage: [
    id,
    { field: 'from', label: 'From', control: 'ref', kind: 'place' },
    { field: 'to', label: 'To', control: 'ref', kind: 'place' },
    { field: 'twoWay', label: 'Both ways', control: 'switch' },
  ],
  source: [
    name, id,
    { field: 'pattern', label: 'Pattern', control: 'ref', kind: 'pattern', nullable: 'none' },
    { field: 'kind', label: 'Kind', control: 'select', options: sourceKinds, optional: true },
    role,
    { field: 'count', label: 'Units', control: 'number', help: 'more than these are repeats, which is grinding' },
    lines('yields', 'A unit gives', yieldLines as never, 2, true),
    lines('takes', 'A unit takes', costLines as never, 1, true),
    requires,
    { field: 'respawns', label: 'Respawns', control: 'yesno', optional: true, help: 'can be repeated without end after its units' },
    minutes('Minutes a unit', true),
    caps,
  ],
  gate: [
    name, id,
    { field: 'kind', label: 'Kind', control: 'select', options: gateKinds },
    role,
    { field: 'guards', label: 'Guards', control: 'guards' },
    requires,
    lines('costs', 'Costs', costLines as never, 1),
    { field: 'stays', label: 'Stays', control: 'select', options: ['open', 'live'], help: 'open: for good; live: tested at every passing' },
    { field: 'due', label: 'Due', control: 'select', options: dueMoments, help: 'meeting: when first met; stop: before that stop is left; route: by its end' },
    { field: 'lockedText', label: 'The player reads', control: 'longtext', help: '{need}, {have} and {short} are filled in' },
    lines('yields', 'Gives on opening', yieldLines as never, 1),
    caps,
    minutes('To get through it'),
  ],
  route: [name, id, { field: 'stops', label: 'Stops', control: 'stops' }],
  profile: [
    name, id,
    { field: 'main', label: 'Share of main units', control: 'number', help: '0 to 1, each unit by itself' },
    { field: 'side', label: 'Share of side units', control: 'number' },
    { field: 'buys', label: 'Side gates with costs', control: 'select', options: ['nothing', 'all'], help: 'all: opens every one it can pay for, as soon as it is met' },
    { field: 'retries', label: 'Failures at each stop', control: 'number' },
  ],
  walk: [name, id],
}
