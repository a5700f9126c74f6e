import type { GameSource, SourceColumns } from './game.ts'

/** What walks ask of every source, laid side by side. */
export function columnsOf(sources: readonly GameSource[]): SourceColumns {
  const yields = sources.reduce((sum, source) => sum + source.yields.length, 0)
  const n = sources.length
  const columns: SourceColumns = {
    count: new Int32Array(n), main: new Uint8Array(n), atOnce: new Uint8Array(n), minutes: new Float64Array(n), yieldsFrom: new Int32Array(n + 1),
    yieldTally: new Int32Array(yields), yieldMin: new Float64Array(yields), yieldMax: new Float64Array(yields),
  }
  sources.forEach((source, s) => {
    columns.yieldsFrom[s + 1] = columns.yieldsFrom[s]! + source.yields.length
    write(columns, source, s)
  })
  return columns
}

function write(columns: SourceColumns, { count, main, atOnce, minutes, yields }: GameSource, s: number): void {
  columns.count[s] = count
  columns.main[s] = Number(main)
  columns.atOnce[s] = Number(atOnce)
  columns.minutes[s] = minutes
  yields.forEach(({ tally, min, max }, i) => {
    const at = columns.yieldsFrom[s]! + i
    columns.yieldTally[at] = tally
    columns.yieldMin[at] = min
    columns.yieldMax[at] = max
  })
}

/** The same for sources of which only some have changed. */
export function columnsAfter(before: SourceColumns, sources: readonly GameSource[], changed: Iterable<number>): SourceColumns {
  const after: SourceColumns = {
    count: before.count.slice(), main: before.main.slice(), atOnce: before.atOnce.slice(), minutes: before.minutes.slice(), yieldsFrom: before.yieldsFrom,
    yieldTally: before.yieldTally.slice(), yieldMin: before.yieldMin.slice(), yieldMax: before.yieldMax.slice(),
  }
  for (const s of changed) {
    if (sources[s]!.yields.length !== before.yieldsFrom[s + 1]! - before.yieldsFrom[s]!) return columnsOf(sources)
    write(after, sources[s]!, s)
  }
  return after
}
