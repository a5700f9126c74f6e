/**
 * A process that measures a plan in the browser: each figure is a line of JSON. What drives the browser is not loaded where checks are
 * measured: a library of its own makes typed arrays slower by a third in the whole process.
 */
import { benchBrowser } from './browser.ts'
import { recordsOf, sampleOf, type SizeName } from './sizes.ts'

await benchBrowser(recordsOf(sampleOf(process.argv[2] as SizeName)), (figure) => console.log(JSON.stringify(figure)))
