import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

// unit: everything that needs neither database nor browser; demo: the demo's files against the table of
// planted faults; server: real PostgreSQL; browser: the built application in Chromium
export default defineConfig({
  test: {
    projects: [
      {
        plugins: [vue()],
        test: {
          name: 'unit',
          include: ['{contract,core,engine,cli,web,tools}/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          globalSetup: ['tools/testing/buildNode.ts'],
          testTimeout: 30_000,
          maxWorkers: 2,
          isolate: false,
        },
      },
      { test: { name: 'demo', include: ['demo/**/*.test.ts'], testTimeout: 60_000 } },
      {
        test: {
          name: 'server',
          env: { STERN_GATE_CHECK_ANSWERS: '1' },
          include: ['server/**/*.test.ts'],
          globalSetup: ['tools/testing/buildNode.ts', 'tools/testing/postgres.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
          isolate: false,
        },
      },
      {
        test: {
          name: 'browser',
          env: { STERN_GATE_CHECK_ANSWERS: '1' },
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['tools/testing/buildAll.ts', 'tools/testing/postgres.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          maxWorkers: 1,
          fileParallelism: false,
        },
      },
    ],
  },
})
