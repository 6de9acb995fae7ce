import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { cruise, type ICruiseResult } from 'dependency-cruiser'
import { afterEach, describe, expect, it } from 'vitest'
import { importRules, workspaces } from './importRules.mjs'

const root = join(import.meta.dirname, '..')
let made: string | null = null
afterEach(() => {
  if (made) rmSync(made, { recursive: true, force: true })
  made = null
})

/** Imports that no rule allows, as `file → target`, and how many files were looked at. */
async function lookAt(
  baseDir: string,
  folders: string[],
): Promise<{ files: number; wrong: { rule: string; arrow: string }[] }> {
  const { output } = await cruise(folders, {
    ruleSet: importRules,
    validate: true,
    baseDir,
    exclude: { path: '\\.test\\.ts$' },
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      extensions: ['.ts', '.vue', '.mjs', '.js', '.d.ts'],
      conditionNames: ['import', 'types', 'default'],
      exportsFields: ['exports'],
    },
  })
  const { summary } = output as ICruiseResult
  return {
    files: summary.totalCruised,
    wrong: summary.violations.map((v) => ({ rule: v.rule.name, arrow: `${v.from} → ${v.to}` })),
  }
}

/** Lays files into a folder of their own and looks at them. */
async function lookAtFiles(files: Record<string, string>): Promise<string[]> {
  made = mkdtempSync(join(tmpdir(), 'stern-imports-'))
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(join(made, dirname(path)), { recursive: true })
    writeFileSync(join(made, path), text)
  }
  const folders = [...new Set(Object.keys(files).map((path) => path.split('/')[0]!))]
  return (await lookAt(made, folders)).wrong.map((w) => w.rule)
}

describe('imports point downward', () => {
  it('in every file of every workspace, and never in a circle', { timeout: 60_000 }, async () => {
    const { files, wrong } = await lookAt(
      root,
      workspaces.map((w) => `${w}/src`),
    )
    expect(files).toBeGreaterThan(500)
    expect(wrong).toEqual([])
  })
  // The rules themselves can fail: each of these must be caught
  it.each([
    ['upward inside core', 'core/src/measure/x.ts', '../judge/y'],
    ['a type alone, upward', 'core/src/geometry/x.ts', '../rules/y'],
    ['a file that lies in no folder, from one that does', 'server/src/store/x.ts', '../y'],
    ['contract on core', 'contract/src/x.ts', '../../core/src/y'],
    ['the page on the engine', 'web/src/views/x.ts', '../../../engine/src/y'],
    ['the page on the server', 'web/src/x.ts', '../../server/src/y'],
    ['server on cli', 'server/src/x.ts', '../../cli/src/y'],
    ['engine on server', 'engine/src/x.ts', '../../server/src/y'],
    ['the store on http', 'server/src/store/x.ts', '../http/y'],
    ['a stage on a store of the page', 'web/src/stages/x.ts', '../stores/y'],
  ])('%s is caught: %s imports %s', async (_what, path, target) => {
    const at = `${join(dirname(path), target)}.ts`
    const wrong = await lookAtFiles({
      [path]: `import type { Y } from '${target}'\nexport type X = Y\n`,
      [at]: 'export type Y = string\n',
    })
    expect(wrong).toHaveLength(1)
  })
  it.each([
    ['Node in core', "import { readFile } from 'node:fs/promises'\nexport { readFile }"],
    ['a package that core may not have', "import sharp from 'sharp'\nexport { sharp }"],
  ])('%s is caught', async (_what, text) => {
    expect(await lookAtFiles({ 'core/src/read/x.ts': text })).toContain('packages-of-core')
  })
  it('Node in the page is caught, in a component, too', async () => {
    const text = '<script setup lang="ts">\nimport { join } from \'node:path\'\njoin()\n</script>\n'
    expect(await lookAtFiles({ 'web/src/views/X.vue': text })).toEqual(['page-without-node'])
  })
  it('a circle is caught', async () => {
    const wrong = await lookAtFiles({
      'core/src/read/x.ts': "import { y } from './y'\nexport const x = (): unknown => y\n",
      'core/src/read/y.ts': "import { x } from './x'\nexport const y = (): unknown => x\n",
    })
    expect(wrong).toContain('no-circles')
  })
  it('downward ones pass', async () => {
    const wrong = await lookAtFiles({
      'core/src/judge/x.ts': "import { y } from '../measure/y'\nimport { z } from 'zod'\nexport { y, z }\n",
      'core/src/measure/y.ts': 'export const y = 1\n',
    })
    expect(wrong).toEqual([])
  })
})
