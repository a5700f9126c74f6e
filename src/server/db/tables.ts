import { index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import type { Diff } from '../../core/change/diff.ts'
import type { Head } from '../../core/plan/head.ts'
import { kinds, type KindEntry } from '../../core/plan/kinds.ts'
import { columnsOf } from './columns.ts'

export const plans = pgTable('plans', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  head: jsonb('head').$type<Head>().notNull(),
  revision: integer('revision').notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  changedAt: timestamp('changed_at', { withTimezone: true }).notNull().defaultNow(),
})

/** The history: every step of every plan, as the named diff that it is. */
export const steps = pgTable(
  'steps',
  {
    planId: text('plan_id').notNull().references(() => plans.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    id: text('id').notNull(),
    kind: text('kind', { enum: ['do', 'undo', 'redo'] }).notNull(),
    diff: jsonb('diff').$type<Diff>().notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.planId, table.revision] }), index('steps_by_id').on(table.planId, table.id)],
)

/** One table for each kind of record, its columns made from the kind's fields. */
function recordTable(name: string, entry: KindEntry) {
  return pgTable(
    name,
    {
      planId: text('plan_id').notNull().references(() => plans.id, { onDelete: 'cascade' }),
      key: text('key').notNull(),
      order: text('order').notNull(),
      place: text('place'),
      ...columnsOf(entry.fields),
    },
    (table) => [primaryKey({ columns: [table.planId, table.key] })],
  )
}

export const tallies = recordTable('tallies', kinds.tally)
export const curves = recordTable('curves', kinds.curve)
export const characters = recordTable('characters', kinds.character)
export const patterns = recordTable('patterns', kinds.pattern)
export const places = recordTable('places', kinds.place)
export const passages = recordTable('passages', kinds.passage)
export const sources = recordTable('sources', kinds.source)
export const gates = recordTable('gates', kinds.gate)
export const routes = recordTable('routes', kinds.route)
export const profiles = recordTable('profiles', kinds.profile)
export const walks = recordTable('walks', kinds.walk)

export const tableOf = {
  tally: tallies, curve: curves, character: characters, pattern: patterns, place: places,
  passage: passages, source: sources, gate: gates, route: routes, profile: profiles, walk: walks,
} satisfies Record<keyof typeof kinds, ReturnType<typeof recordTable>>
