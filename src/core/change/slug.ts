import { maxSlugLength } from '../plan/basics.ts'

/** A name as a slug: small letters, digits and _, beginning with a letter; empty where the name has none of them. */
export function slugFrom(name: string): string {
  const plain = name.normalize('NFKD').replace(/[\u0300-\u036f]/g, '').toLowerCase()
  return plain.replace(/[^a-z0-9]+/g, '_').replace(/^[^a-z]+/, '').slice(0, maxSlugLength).replace(/_+$/, '')
}

/** Kept free of a long name for what tells it from others like it: there may be tens of thousands. */
const roomForNumber = 6

/** A slug made from a name that is none of those taken. `otherwise`: where nothing of the name is left. */
export function freeSlug(name: string, taken: ReadonlySet<string>, otherwise = 'item'): string {
  const base = slugFrom(name) || otherwise
  let slug = base
  for (let n = 2; taken.has(slug); n++) slug = `${base.slice(0, maxSlugLength - roomForNumber)}_${n}`
  return slug
}
