import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'

/** What each room may not import: `core` nothing outside itself, the others only `core` and themselves. */
const closedTo = {
  'src/core': ['**/server/**', '**/web/**', '**/cli/**', 'node:*', 'vue', 'express', 'drizzle-orm', 'drizzle-orm/*', '@electric-sql/*', 'pino'],
  'src/server': ['**/web/**', '**/cli/**', 'vue'],
  'src/web': ['**/server/**', '**/cli/**', 'node:*'],
  'src/cli': ['**/server/**', '**/web/**', 'vue'],
}

const rooms = Object.entries(closedTo).map(([room, group]) => ({
  files: [`${room}/**/*.ts`, `${room}/**/*.vue`],
  ignores: ['**/*.test.ts', 'src/*/testing/**'],
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message: `${room} does not import this (see CONTRIBUTING.md)` }] }] },
}))

export default tseslint.config(
  { ignores: ['dist/', 'data/', 'node_modules/', 'src/core/testing/cases/', '**/*.mjs', '**/*.cjs'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-unused-expressions': 'off',
      'max-lines': ['error', { max: 420, skipBlankLines: true }],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'randomness comes in as an argument' }],
    },
  },
  ...rooms,
)
