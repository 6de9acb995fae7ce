import { defineConfig } from 'vitest/config'

// What `npm run mutate` runs: the tests of core alone
export default defineConfig({
  test: { include: ['core/src/**/*.test.ts'], environment: 'node', testTimeout: 30_000 },
})
