import { builtinModules } from 'node:module'
import { defineConfig } from 'vite'

const entry = process.env.ENTRY ?? 'server'
const entries: Record<string, { input: string; bundled: boolean }> = {
  server: { input: 'src/server/main.ts', bundled: false },
  // The command line is one file, so that it starts quickly; `serve` loads the server beside it.
  tundrift: { input: 'src/cli/main.ts', bundled: true },
}
const { input, bundled } = entries[entry]!

/** Builds what runs in Node: the server, or the command line. */
export default defineConfig({
  build: {
    ssr: input,
    outDir: 'dist',
    emptyOutDir: false,
    target: 'node20',
    rolldownOptions: {
      output: { entryFileNames: `${entry}.js`, ...(bundled ? { banner: '#!/usr/bin/env node', codeSplitting: false } : {}) },
      external: [/^node:/, ...builtinModules, /server\.js$/],
    },
  },
  ...(bundled ? { ssr: { noExternal: true } } : {}),
})
