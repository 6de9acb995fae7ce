import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './root.mjs'

/** Runs a command in the project's folder; gives its exit code. */
export const run = (command, args, options = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], ...options })
    child.on('exit', (code) => resolve(code ?? 1))
    child.on('error', () => resolve(1))
  })
const bin = (name) => join(root, 'node_modules', '.bin', name)

/**
 * The core alone, so that nothing of Node or a page slips in; all that runs in Node; the browser tests; the
 * page.
 */
const programs = [
  ['tsc', 'tsconfig.node.json'],
  ['vue-tsc', 'web'],
  ['tsc', 'core'],
  ['tsc', 'e2e'],
]

/** Type-checks every workspace, two programs at a time. */
export async function checkTypes() {
  mkdirSync(join(root, '.stern', 'types'), { recursive: true })
  const queue = [...programs]
  let passed = 0,
    failed = 0
  await Promise.all(
    [1, 2].map(async () => {
      for (let next = queue.shift(); next; next = queue.shift())
        (await run(bin(next[0]), ['-p', next[1], '--noEmit'])) === 0 ? passed++ : failed++
    }),
  )
  return { passed, failed }
}

const remembering = (file) => ['--cache', '--cache-strategy', 'content', '--cache-location', `.stern/${file}`]
const oneStep = async (command, ...args) =>
  (await run(bin(command), args)) === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }

/** Whether every file is as prettier writes it. Looks only at files that changed since the last time. */
export const checkFormat = () =>
  oneStep('prettier', '--check', '.', '--log-level', 'warn', ...remembering('prettier.json'))

/** Looks only at files that changed since the last time, where it remembers one. */
export const lint = () => oneStep('eslint', '.', '--max-warnings', '0', ...remembering('eslint.json'))

/** Runs one project of the tests and counts what it says. A run that breaks off counts as a failure. */
export async function runTests(project) {
  const report = join(root, '.stern', `tests-${project}.json`)
  rmSync(report, { force: true })
  const code = await run(bin('vitest'), [
    'run',
    '--project',
    project,
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ])
  try {
    const { numPassedTests: passed, numFailedTests: failed } = JSON.parse(readFileSync(report, 'utf8'))
    return { passed, failed: failed === 0 && code !== 0 ? 1 : failed }
  } catch {
    return { passed: 0, failed: 1 }
  }
}

/** A step that does several at once, for such as keep one processor busy each. */
export const together =
  (...steps) =>
  async () =>
    (await Promise.all(steps.map((step) => step()))).reduce(sumOf)
/** A step that does several one after the other. */
export const inOrder =
  (...steps) =>
  async () => {
    let sum = { passed: 0, failed: 0 }
    for (const step of steps) sum = sumOf(sum, await step())
    return sum
  }
const sumOf = (a, b) => ({ passed: a.passed + b.passed, failed: a.failed + b.failed })

/** Runs named steps one after the other, with their times, and closes with the sum. Ends the process. */
export async function runSteps(steps) {
  let passed = 0,
    failed = 0
  for (const [name, step] of steps) {
    console.log(`\n— ${name}`)
    const started = Date.now()
    const result = await step()
    passed += result.passed
    failed += result.failed
    console.log(
      `  ${name}: ${result.passed} passed, ${result.failed} failed, ${((Date.now() - started) / 1000).toFixed(1)} s`,
    )
  }
  console.log(`\n${passed} passed, ${failed} failed`)
  process.exit(failed > 0 ? 1 : 0)
}
