// npm run check: the quick part of the tests only: types, lint, unit.
import { ensurePackages } from './packages.mjs'

ensurePackages()
const { checkTypes, lint, runSteps, runTests } = await import('./steps.mjs')
await runSteps([['types', checkTypes], ['lint', lint], ['unit', () => runTests('unit')]])
