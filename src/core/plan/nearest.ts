/** Edits from one word to another (a letter put in, left out, changed, or two swapped), as far as `most`; beyond it `most + 1`. */
export function editDistance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)]
  for (let i = 1; i <= a.length; i++) {
    const before = rows[i - 1]!
    const row = [i]
    for (let j = 1; j <= b.length; j++) {
      const change = before[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? rows[i - 2]![j - 2]! + 1 : Infinity
      row.push(Math.min(change, swapped, before[j]! + 1, row[j - 1]! + 1))
    }
    rows.push(row)
  }
  return rows[a.length]![b.length]!
}

/** From how many letters on the beginning of a name, or of one of its words, is enough to know what is meant. */
const enoughLetters = 4

/** The names that someone who wrote `wanted` may have meant: same but for case, a few letters off, or with a word that is begun so; nearest first. */
export function nearest(wanted: string, names: Iterable<string>, howMany = 2): string[] {
  const most = Math.max(1, Math.floor(wanted.length / 3))
  const small = wanted.toLowerCase()
  const distanceTo = (name: string) => {
    const distance = editDistance(small, name, most)
    return distance > most && small.length >= enoughLetters && `_${name}`.includes(`_${small}`) ? most : distance
  }
  return [...new Set(names)]
    .map((name) => ({ name, distance: distanceTo(name.toLowerCase()) }))
    .filter((found) => found.distance <= most)
    .sort((a, b) => a.distance - b.distance || (a.name < b.name ? -1 : 1))
    .slice(0, howMany)
    .map((found) => found.name)
}
