import { boolean, doublePrecision, integer, jsonb, text } from 'drizzle-orm/pg-core'
import { z } from 'zod'

/** The schema within defaults, nulls and options, and whether the field may be absent. */
export function unwrapped(schema: z.ZodType): { inner: z.ZodType; optional: boolean } {
  if (schema instanceof z.ZodDefault || schema instanceof z.ZodNullable) return unwrapped(schema.unwrap() as z.ZodType)
  if (schema instanceof z.ZodOptional) return { inner: unwrapped(schema.unwrap() as z.ZodType).inner, optional: true }
  return { inner: schema, optional: false }
}

/** The column that holds a field: plain values as themselves, lists and objects as jsonb. */
function columnFor(name: string, schema: z.ZodType) {
  const { inner } = unwrapped(schema)
  if (inner instanceof z.ZodString || inner instanceof z.ZodEnum) return text(name)
  if (inner instanceof z.ZodBoolean) return boolean(name)
  if (inner instanceof z.ZodNumber) return inner.format === 'safeint' ? integer(name) : doublePrecision(name)
  return jsonb(name)
}

export function columnsOf(fields: Record<string, z.ZodType>) {
  return Object.fromEntries(Object.entries(fields).map(([name, schema]) => [name, columnFor(name, schema)]))
}
