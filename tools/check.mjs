// npm run check: the quick part of the tests only: types, format, lint, unit.
import { ensurePackages } from './packages.mjs'

ensurePackages()
const { checkFormat, checkTypes, lint, runSteps, runTests, together } = await import('./steps.mjs')
await runSteps([
  ['types', checkTypes],
  ['format and lint', together(checkFormat, lint)],
  ['unit', () => runTests('unit')],
])
