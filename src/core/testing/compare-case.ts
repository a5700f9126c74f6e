/** How what a check gives is held against what a case states: only what is stated counts. */

export interface Case {
  about: string
  plan: unknown
  expect: Record<string, unknown>
}

const nameKeys = { routes: 'route', profiles: 'profile', gates: 'gate', debt: 'source', closed: 'gate' } as const
/** Lists that, where they are stated, are complete. */
const complete: ReadonlySet<string> = new Set(['debt', 'closed'])

type Found = Record<string, unknown>

/** Every difference, each with the path to it. */
export function differences(stated: unknown, found: unknown, path: string, key = ''): string[] {
  if (typeof stated === 'number') {
    const same = typeof found === 'number' && Math.abs(found - stated) <= 1e-9 * Math.max(1, Math.abs(stated))
    return same ? [] : [`${path}: ${JSON.stringify(found)}, stated ${stated}`]
  }
  if (stated === null || typeof stated !== 'object') return Object.is(stated, found) ? [] : [`${path}: ${JSON.stringify(found)}, stated ${JSON.stringify(stated)}`]
  if (Array.isArray(stated)) return Array.isArray(found) ? listDifferences(stated, found, path, key) : [`${path}: no list`]
  if (found === null || typeof found !== 'object') return [`${path}: ${JSON.stringify(found)}, stated an object`]
  if ('text' in stated && 'need' in stated) return comparisonDifferences(stated as Found, found as Found, path)
  return Object.entries(stated).flatMap(([k, value]) => differences(value, (found as Found)[k], `${path}.${k}`, k))
}

function listDifferences(stated: unknown[], found: unknown[], path: string, key: string): string[] {
  const name = nameKeys[key as keyof typeof nameKeys]
  if (!name) {
    const length = stated.length === found.length ? [] : [`${path}: ${found.length} entries, stated ${stated.length}`]
    return [...length, ...stated.flatMap((value, i) => differences(value, found[i], `${path}[${i}]`))]
  }
  const byName = new Map(found.map((entry) => [(entry as Found)[name], entry]))
  const more = complete.has(key) && found.length !== stated.length ? [`${path}: ${found.length} entries, stated ${stated.length}`] : []
  return [...more, ...stated.flatMap((value) => {
    const id = (value as Found)[name]
    return differences(value, byName.get(id), `${path}[${String(id)}]`)
  })]
}

/** A comparison's text counts but for white space, and a cost's is free. */
function comparisonDifferences(stated: Found, found: Found, path: string): string[] {
  const { text, ...rest } = stated
  const bare = (t: unknown) => String(t).replace(/\s+/g, '')
  const isCost = !/[<>=!]/.test(String(text))
  const texts = isCost || bare(text) === bare(found.text) ? [] : [`${path}.text: ${String(found.text)}, stated ${String(text)}`]
  return [...texts, ...Object.entries(rest).flatMap(([k, value]) => differences(value, found[k], `${path}.${k}`, k))]
}
