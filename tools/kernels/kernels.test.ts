import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { moduleText } from './assemble.mjs'

it('core has the kernel that its text gives; npm run kernels writes it anew', async () => {
  expect(readFileSync(join(import.meta.dirname, '../../core/src/image/byteSumsKernel.ts'), 'utf8')).toBe(await moduleText())
})
