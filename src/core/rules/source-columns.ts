import type { GameSource, SourceColumns } from './game.ts'

/** What walks ask of every source, laid side by side. */
export function columnsOf(sources: readonly GameSource[]): SourceColumns {
  const yields = sources.flatMap((source) => source.yields)
  let from = 0
  return {
    count: Int32Array.from(sources, (source) => source.count),
    main: Uint8Array.from(sources, (source) => Number(source.main)),
    atOnce: Uint8Array.from(sources, (source) => Number(source.atOnce)),
    yieldsFrom: Int32Array.from([...sources.map((source) => (from += source.yields.length) - source.yields.length), yields.length]),
    yieldTally: Int32Array.from(yields, (y) => y.tally),
    yieldMin: Float64Array.from(yields, (y) => y.min),
    yieldMax: Float64Array.from(yields, (y) => y.max),
  }
}
