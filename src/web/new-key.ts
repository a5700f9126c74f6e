/** A key for a new record, which no other has. */
export function newKey(): string {
  return `n_${crypto.randomUUID().slice(0, 13)}`
}
