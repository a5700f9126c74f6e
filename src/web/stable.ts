import { computed, type ComputedRef } from 'vue'

/** What is computed, the same again while it is alike: then nothing that rests on it is done again. */
export function stable<T>(compute: (before: T | undefined) => T, isAlike: (a: T, b: T) => boolean): ComputedRef<T> {
  return computed<T>((before) => {
    const next = compute(before)
    return before !== undefined && isAlike(before, next) ? before : next
  })
}

/** Whether two objects have the same fields, each with the same value. */
export function sameFields<T extends object>(a: T, b: T): boolean {
  if (a === b) return true
  const fields = Object.keys(a) as (keyof T)[]
  return fields.length === Object.keys(b).length && fields.every((field) => field in b && a[field] === b[field])
}

/** Whether two lists of objects have the same fields, one by one. */
export function sameEach<T extends object>(a: readonly T[], b: readonly T[]): boolean {
  return a.length === b.length && a.every((item, i) => sameFields(item, b[i]!))
}
