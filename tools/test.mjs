// npm test: installs what is missing, then types, format, lint, unit, the demo's verdicts, server against a real
// PostgreSQL, browser in Chromium.
import { ensureDebian } from './debian.mjs'
import { ensurePackages } from './packages.mjs'

ensureDebian('postgresql', 'chromium')
ensurePackages()
const { checkFormat, checkTypes, inOrder, lint, runSteps, runTests, together } = await import('./steps.mjs')
await runSteps([
  ['types', checkTypes],
  // Lint keeps one processor busy for minutes, and so do format and the demo one after the other
  [
    'lint, format and the demo',
    together(
      lint,
      inOrder(checkFormat, () => runTests('demo')),
    ),
  ],
  ['unit', () => runTests('unit')],
  ['server', () => runTests('server')],
  ['browser', () => runTests('browser')],
])
