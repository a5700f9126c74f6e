/** A name as a slug: small letters, digits and _, beginning with a letter; empty where the name has none of them. */
export function slugFrom(name: string): string {
  const plain = name.normalize('NFKD').replace(/[\u0300-\u036f]/g, '').toLowerCase()
  return plain.replace(/[^a-z0-9]+/g, '_').replace(/^[^a-z]+/, '').slice(0, 64).replace(/_+$/, '')
}

/** A slug made from a name that is none of those taken. */
export function freeSlug(name: string, taken: ReadonlySet<string>): string {
  const base = slugFrom(name) || 'item'
  let slug = base
  for (let n = 2; taken.has(slug); n++) slug = `${base.slice(0, 60)}_${n}`
  return slug
}
