import { createHash } from 'node:crypto'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Manifest } from '@stern-gate/contract'
import { writePackage, type PackageEntry } from './writePackage'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-package-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

const manifest: Manifest = {
  format: 'stern-gate-manifest/1',
  version: 'test',
  project: null,
  dispatch: null,
  target: 'desk',
  rulebook: { name: 'default', revision: null },
  terms: {},
  assets: [],
  scenes: [],
}
async function entries(count: number): Promise<PackageEntry[]> {
  return Promise.all(
    Array.from({ length: count }, async (_, i) => {
      const file = join(folder, `file ${i}`)
      await writeFile(file, `content ${i} `.repeat(1 + ((i * 37) % 500)))
      return { path: `desk/meshes/a${i}/${i % 2 ? 'é.glb' : 'a.png'}`, file }
    }),
  )
}

describe('a package', () => {
  it('holds the manifest and every file as it is', async () => {
    const all = await entries(5)
    const files = unzipSync(new Uint8Array(await buffer(writePackage(all, manifest))))
    expect(Object.keys(files).sort()).toEqual(['manifest.json', ...all.map((e) => e.path)].sort())
    expect(JSON.parse(new TextDecoder().decode(files['manifest.json']))).toEqual(manifest)
    expect(new TextDecoder().decode(files['desk/meshes/a1/é.glb'])).toBe('content 1 '.repeat(38))
  })
  it('has the same bytes whenever it is made, whatever the order of its entries', async () => {
    const all = await entries(60)
    const hash = async (list: PackageEntry[]): Promise<string> =>
      createHash('sha256')
        .update(await buffer(writePackage(list, manifest)))
        .digest('hex')
    const first = await hash(all)
    expect(await hash([...all].reverse())).toBe(first)
    expect(await hash(all.slice(1))).not.toBe(first)
  })
  it('ends with the error of a file that is not there', async () => {
    const missing = { path: 'a', file: join(folder, 'gone') }
    await expect(buffer(writePackage([...(await entries(2)), missing], manifest))).rejects.toMatchObject({
      code: 'ENOENT',
    })
  })
})
