import { defineConfig } from 'drizzle-kit'

export default defineConfig({ dialect: 'postgresql', schema: './src/server/db/tables.ts', out: './src/server/db/migrations' })
