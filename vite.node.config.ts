import { builtinModules } from 'node:module'
import { defineConfig } from 'vite'

const entry = process.env.ENTRY ?? 'server'
/** Each is a single file, so that they start quickly; what cannot be put into one stays a package. */
const entries: Record<string, { input: string; external: string[] }> = {
  server: { input: 'src/server/main.ts', external: ['@electric-sql/pglite', 'pg', 'pino', 'pino-http', 'piscina'] },
  'check-thread': { input: 'src/server/service/check-thread.ts', external: [] },
  tundrift: { input: 'src/cli/main.ts', external: [] },
  bench: { input: 'bench/bench.ts', external: [] },
  'bench-browser': { input: 'bench/browser-process.ts', external: ['selenium-webdriver', 'selenium-webdriver/chrome.js'] },
  'draw-thread': { input: 'bench/draw-thread.ts', external: [] },
}
const { input, external } = entries[entry]!

/** Builds what runs in Node: the server, its threads, the command line, or the bench, which is measured as it is run. */
export default defineConfig({
  build: {
    ssr: input,
    outDir: 'dist',
    emptyOutDir: false,
    target: 'node20',
    rolldownOptions: {
      output: { entryFileNames: `${entry}.js`, banner: '#!/usr/bin/env node', codeSplitting: false },
      external: [/^node:/, ...builtinModules, ...external],
    },
  },
  ssr: { noExternal: true, external },
})
