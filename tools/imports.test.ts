import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join, relative } from 'node:path'
import { describe, expect, it } from 'vitest'
import { forbiddenImports, type SourceFile } from './imports'

const root = join(import.meta.dirname, '..')

function sources(): SourceFile[] {
  const found: SourceFile[] = []
  const walk = (folder: string): void => {
    for (const name of readdirSync(folder)) {
      const path = join(folder, name)
      if (statSync(path).isDirectory()) walk(path)
      else if (/\.(ts|vue)$/.test(name) && !name.endsWith('.d.ts'))
        found.push({ path: relative(root, path), text: readFileSync(path, 'utf8') })
    }
  }
  for (const workspace of ['contract', 'core', 'engine', 'cli', 'server', 'web', 'demo', 'e2e', 'bench'])
    walk(join(root, workspace, 'src'))
  return found
}

describe('imports point downward', () => {
  it('in every file of every workspace', () => {
    const files = sources()
    expect(files.length).toBeGreaterThan(100)
    expect(forbiddenImports(files)).toEqual([])
  })
  // The walk itself can fail: each of these must be caught
  it.each([
    ['core/src/measure/x.ts', "import { judge } from '../judge/judge'", 'upward inside core'],
    ['core/src/geometry/x.ts', "import type { Rule } from '../rules/defineRule'", 'a type alone, upward'],
    ['core/src/read/x.ts', "import { readFile } from 'node:fs/promises'", 'Node in core'],
    ['core/src/read/x.ts', "import sharp from 'sharp'", 'a package that core may not have'],
    ['contract/src/x.ts', "export * from '@stern-gate/core'", 'contract on core'],
    ['web/src/x.ts', "const m = await import('@stern-gate/engine')", 'the page on the engine'],
    [
      'web/src/x.vue',
      '<script setup lang="ts">\nimport { x } from \'../../server/src/main\'\n</script>',
      'the page on the server, by a path',
    ],
    ['server/src/x.ts', "import { x } from '@stern-gate/cli'", 'server on cli'],
    ['engine/src/x.ts', "import { x } from '@stern-gate/server'", 'engine on server'],
    ['server/src/store/x.ts', "import { x } from '../http/y'", 'the store on http'],
    ['web/src/stages/x.ts', "import { useBench } from '../stores/bench'", 'a stage on a store'],
  ])('%s with %s is caught', (path, text) => {
    const target = /'(\.\.?\/[^']+)'/.exec(text)?.[1]
    const stub = target ? [{ path: `${join(path, '..', target)}.ts`, text: '' }] : []
    expect(forbiddenImports([{ path, text }, ...stub])).toHaveLength(1)
  })
  it('lets downward ones through', () => {
    expect(
      forbiddenImports([
        { path: 'core/src/judge/x.ts', text: "import { y } from '../measure/y'\nimport { z } from 'zod'" },
        { path: 'core/src/measure/y.ts', text: '' },
      ]),
    ).toEqual([])
  })
})
