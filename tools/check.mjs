// npm run check: the quick part of the tests only: types, format, lint, unit.
import { ensurePackages } from './packages.mjs'

ensurePackages()
const { checkFormat, checkTypes, lint, runSteps, runTests } = await import('./steps.mjs')
await runSteps([
  ['types', checkTypes],
  ['format', checkFormat],
  ['lint', lint],
  ['unit', () => runTests('unit')],
])
