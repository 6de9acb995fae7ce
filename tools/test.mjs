// npm test: installs what is missing, then types, format, lint, unit, the demo's verdicts, server against a real
// PostgreSQL, browser in Chromium.
import { ensureDebian } from './debian.mjs'
import { ensurePackages } from './packages.mjs'

ensureDebian('postgresql', 'chromium')
ensurePackages()
const { checkFormat, checkTypes, lint, runSteps, runTests } = await import('./steps.mjs')
await runSteps([
  ['types', checkTypes],
  ['format', checkFormat],
  ['lint', lint],
  ['unit', () => runTests('unit')],
  ['demo', () => runTests('demo')],
  ['server', () => runTests('server')],
  ['browser', () => runTests('browser')],
])
