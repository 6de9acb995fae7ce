import { createHash } from 'node:crypto'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { hashFile } from './factsCache'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-hash-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

it.each([
  ['an empty file', 0],
  ['a small file', 3],
  ['one as large as is read at once', 16 << 20],
  ['a larger one, which is streamed', (16 << 20) + 1],
])('%s has the hash of its bytes', async (_, size) => {
  const file = join(folder, String(size)),
    bytes = new Uint8Array(size).map((_, k) => (k * 31) ^ (k >> 9))
  await writeFile(file, bytes)
  const wanted = createHash('sha256').update(bytes).digest('hex')
  expect([await hashFile(file, size), await hashFile(file)]).toEqual([wanted, wanted])
})
