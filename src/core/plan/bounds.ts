import { kindEntry, kindNames, type KindName } from './kinds.ts'

/** Of a kind of record there are more than a plan may hold (docs/format.md). */
export interface Crowd {
  kind: KindName
  found: number
  most: number
}

/** Every kind of which there are too many. */
export function crowds(found: (kind: KindName) => number): Crowd[] {
  return kindNames.map((kind) => ({ kind, found: found(kind), most: kindEntry(kind).most })).filter((crowd) => crowd.found > crowd.most)
}

const written = (n: number) => n.toLocaleString('en')

export function crowdText({ kind, found, most }: Crowd): string {
  const { word } = kindEntry(kind)
  return `a plan holds at most ${written(most)} records of the kind ${word}, and these would be ${written(found)}`
}
