import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

const api = `http://127.0.0.1:${process.env.PORT ?? 4710}`

export default defineConfig({
  root: fileURLToPath(new URL('src/web', import.meta.url)),
  plugins: [vue()],
  worker: { format: 'es' },
  build: { outDir: fileURLToPath(new URL('dist/web', import.meta.url)), emptyOutDir: true, chunkSizeWarningLimit: 1500 },
  // As the server has them (app.ts): threads of the page may share memory.
  server: { headers: { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' }, proxy: { '/api': { target: api, changeOrigin: true, headers: { origin: api } } } },
})
