// npm run mutate -- core/src/rules [how many]: changes a seeded sample of places in a folder's code, one at a
// time, and counts how many of the changes some test of core notices. No part of npm test.
import { readdirSync, readFileSync, rmSync } from 'node:fs'
import { join, relative } from 'node:path'
import { commonTokens } from '@stryker-mutator/api/plugin'
import { Stryker } from '@stryker-mutator/core'
import { createInstrumenter } from '@stryker-mutator/instrumenter'
import { createInjector } from 'typed-inject'
import { root } from './root.mjs'

const [folder = 'core/src/rules', count = '60'] = process.argv.slice(2)
/** A place that holds more changes than this is a whole function: it would fill the sample by itself. */
const MOST_INSIDE = 6
const SEED = 20_261_129
/** Texts are held word by word by the files in fixtures/cases/said. */
const EXCLUDED = ['StringLiteral']

const sources = readdirSync(join(root, folder), { recursive: true })
  .map((name) => join(folder, String(name)))
  .filter((path) => path.endsWith('.ts') && !path.endsWith('.test.ts'))
const mutants = await listMutants(sources)
const chosen = sample(mutants, Number(count))
process.stdout.write(`${folder}: ${mutants.length} places for a change, ${chosen.length} of them are tried\n`)

const results = await new Stryker({
  mutate: chosen.map(rangeOf),
  testRunner: 'vitest',
  vitest: { configFile: 'tools/mutate.vitest.config.ts', related: true },
  plugins: ['@stryker-mutator/vitest-runner'],
  mutator: { excludedMutations: EXCLUDED },
  coverageAnalysis: 'perTest',
  ignorePatterns: ['dist', '.stern', 'docs/screenshots', 'web', 'server', 'e2e'],
  concurrency: 2,
  timeoutMS: 20_000,
  tempDirName: '.stern/mutate',
  reporters: ['progress'],
  logLevel: 'error',
  allowConsoleColors: false,
}).runMutationTest()
rmSync(join(root, '.stern/mutate'), { recursive: true, force: true })

const tried = results.filter((r) => !['Ignored', 'CompileError', 'RuntimeError'].includes(r.status))
const noticed = tried.filter((r) => r.status === 'Killed' || r.status === 'Timeout')
for (const { fileName, location, replacement, status } of tried)
  if (status === 'Survived' || status === 'NoCoverage')
    process.stdout.write(
      `  unnoticed  ${relative(root, fileName)}:${location.start.line}  ${String(replacement).replaceAll(/\s+/g, ' ').slice(0, 70)}\n`,
    )
const share = noticed.length / Math.max(1, tried.length)
process.stdout.write(
  `${folder}: ${noticed.length} of ${tried.length} changes noticed, ${(share * 100).toFixed(0)} %\n`,
)

/** Every change that Stryker knows for these files. */
async function listMutants(paths) {
  const quiet = new Proxy({}, { get: () => () => false })
  const injector = createInjector()
    .provideValue(commonTokens.logger, quiet)
    .provideValue(commonTokens.getLogger, () => quiet)
    .provideValue(commonTokens.options, {})
  const files = paths.map((name) => ({
    name,
    content: readFileSync(join(root, name), 'utf8'),
    mutate: true,
  }))
  const { mutants: found } = await injector
    .injectFunction(createInstrumenter)
    .instrument(files, { ignorers: [], plugins: null, excludedMutations: EXCLUDED, noHeader: true })
  return found
}

/** Places whose changes come to about so many, in an order that the seed gives. */
function sample(all, most) {
  const contains = (a, b) =>
    a.fileName === b.fileName &&
    !before(b.location.start, a.location.start) &&
    !before(a.location.end, b.location.end)
  const order = all
    .map((mutant) => ({ mutant, rank: hash(`${SEED} ${rangeOf(mutant)} ${mutant.replacement}`) }))
    .sort((a, b) => a.rank - b.rank)
  const out = []
  let inside = 0
  for (const { mutant } of order) {
    if (inside >= most) break
    const own = all.filter((other) => contains(mutant, other)).length
    if (own > MOST_INSIDE) continue
    out.push(mutant)
    inside += own
  }
  return out
}

function before(a, b) {
  return a.line < b.line || (a.line === b.line && a.column < b.column)
}
function rangeOf({ fileName, location: { start, end } }) {
  return `${fileName}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`
}
function hash(text) {
  let h = 2166136261
  for (const c of text) h = Math.imul(h ^ c.charCodeAt(0), 16777619)
  h = Math.imul(h ^ (h >>> 15), 2246822507)
  return (h ^ (h >>> 13)) >>> 0
}
