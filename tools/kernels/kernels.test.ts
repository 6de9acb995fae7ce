import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { moduleText } from './compile.mjs'

it('core has the kernels that core/kernels gives; npm run kernels writes them anew', async () => {
  expect(readFileSync(join(import.meta.dirname, '../../core/src/kernels/kernelsModule.ts'), 'utf8')).toBe(
    await moduleText(),
  )
})
