import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { moduleText } from './assemble.mjs'
import { meshModuleText } from './assembleMesh.mjs'

const kept = (file: string): string => readFileSync(join(import.meta.dirname, '../../core/src', file), 'utf8')

it('core has the kernels that their texts give; npm run kernels writes them anew', async () => {
  expect(kept('image/byteSumsKernel.ts')).toBe(await moduleText())
  expect(kept('geometry/meshModule.ts')).toBe(await meshModuleText())
})
