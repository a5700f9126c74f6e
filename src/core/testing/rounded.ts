/** Plain data with its numbers to twelve digits: what branches that are walked apart come to differs behind those from what they come to together. */
export function rounded(data: unknown): unknown {
  return JSON.parse(JSON.stringify(data), (_, part: unknown) => (typeof part === 'number' ? Number(part.toPrecision(12)) : part))
}
