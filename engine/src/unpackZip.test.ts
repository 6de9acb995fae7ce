import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { deflateRawSync } from 'node:zlib'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { unpackLimits, unpackZip, type UnpackLimits } from './unpackZip'
import { zipOf, type ZipEntry } from './zipFixture'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-zip-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function unpack(bytes: Uint8Array, limits: UnpackLimits = unpackLimits) {
  const file = join(folder, 'a.zip'),
    taken: Record<string, string> = {},
    refused: Record<string, string> = {}
  await writeFile(file, bytes)
  const done = await unpackZip(
    file,
    bytes.length,
    {
      take: async (path, stream) => {
        taken[path] = (await buffer(stream)).toString('latin1')
      },
      refuse: async (path, fault) => {
        refused[path] = fault.code
      },
    },
    limits,
  )
  return { code: done.ok ? 'ok' : done.fault.code, taken, refused }
}
const plain = (name: string, body = name): ZipEntry => ({ name, body: Buffer.from(body, 'latin1') })

describe('an archive', () => {
  it('gives its files with their paths, packed or not; folders and what systems put beside them are left out', async () => {
    const zip = zipOf([
      plain('props/'),
      plain('props/a.obj', 'v'),
      { ...plain('props/deep/b.png', 'b'.repeat(500)), packed: true },
      plain('__MACOSX/props/._a.obj'),
      plain('.DS_Store'),
      plain('props/Thumbs.db'),
    ])
    expect(await unpack(zip)).toEqual({
      code: 'ok',
      taken: { 'props/a.obj': 'v', 'props/deep/b.png': 'b'.repeat(500) },
      refused: {},
    })
  })
  it('takes names of any script, said to be UTF-8 or not, and of code page 437', async () => {
    const zip = zipOf([
      { name: Buffer.from('港/ß.png'), body: Buffer.from('1') },
      { name: Buffer.from([0x84, 0x2e, 0x70, 0x6e, 0x67]), body: Buffer.from('2') },
    ])
    expect((await unpack(zip)).taken).toEqual({ '港/ß.png': '1', 'ä.png': '2' })
  })
  it.each([
    ['climbs out', plain('../../etc/passwd'), '../../etc/passwd', 'file/unsafe-path'],
    ['is absolute', plain('/etc/passwd'), '/etc/passwd', 'file/unsafe-path'],
    ['climbs by backslashes', plain('a\\..\\..\\b.png'), 'a\\..\\..\\b.png', 'file/unsafe-path'],
    ['is a link', { ...plain('link.png', '/etc/passwd'), unixMode: 0xa1ff }, 'link.png', 'archive/link'],
    ['is encrypted', { ...plain('secret.png'), flags: 1 }, 'secret.png', 'archive/encrypted'],
    ['is an archive', plain('inner.zip'), 'inner.zip', 'archive/nested'],
    ['comes twice', plain('good.png', 'other'), 'good.png', 'archive/duplicate'],
  ])('an entry that %s stays outside, the rest goes on', async (_, entry, path, code) => {
    expect(await unpack(zipOf([plain('good.png', 'first'), entry, plain('last.png')]))).toEqual({
      code: 'ok',
      taken: { 'good.png': 'first', 'last.png': 'last.png' },
      refused: { [path]: code },
    })
  })
  it('that unpacks to a multiple of itself, or whose entries lie over each other, or that lists too many, is refused whole', async () => {
    const zeros = { name: 'zeros.bin', body: Buffer.alloc(4_000_000), packed: true }
    expect(await unpack(zipOf([zeros]))).toMatchObject({ code: 'archive/too-large', taken: {} })
    expect(
      (
        await unpack(
          zipOf([
            plain('a.png', 'x'.repeat(400)),
            { ...plain('b.png', 'x'.repeat(400)), sameDataAs: 0 },
            { ...plain('c.png', 'x'.repeat(400)), sameDataAs: 0 },
          ]),
        )
      ).code,
    ).toBe('archive/too-large')
    expect(
      (await unpack(zipOf([plain('a.png'), plain('b.png')]), { ...unpackLimits, entries: 1 })).code,
    ).toBe('archive/too-large')
    expect(
      (await unpack(zipOf([plain('a.png', 'x'.repeat(900))]), { ...unpackLimits, totalBytes: 800 })).code,
    ).toBe('archive/too-large')
  })
  it('whose entry gives more than it claims has that entry refused', async () => {
    expect(
      await unpack(
        zipOf([
          { name: 'liar.bin', body: Buffer.alloc(50_000, 'ab'), packed: true, claims: 10 },
          plain('good.png'),
        ]),
      ),
    ).toMatchObject({
      code: 'ok',
      taken: { 'good.png': 'good.png' },
      refused: { 'liar.bin': 'archive/damaged' },
    })
  })
  it('that is none, or cut short, is refused', async () => {
    expect([
      (await unpack(Buffer.from('no zip'))).code,
      (await unpack(zipOf([plain('a.png', 'x'.repeat(300))]).subarray(0, 200))).code,
    ]).toEqual(['archive/damaged', 'archive/damaged'])
  })
  it('with changed bytes never throws and never unpacks beyond its limits (seeded)', async () => {
    const good = zipOf([
      plain('a.obj', 'v 0 0 0'),
      { ...plain('b/c.png', 'c'.repeat(300)), packed: true },
      plain('d.txt'),
    ])
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }),
        async (flips) => {
          const bytes = Uint8Array.from(good)
          for (const [at, value] of flips) bytes[at] = value
          const { code, taken } = await unpack(bytes, { ...unpackLimits, totalBytes: 10_000 })
          expect(code).toMatch(/^(ok|archive\/)/)
          expect(Object.values(taken).reduce((n, t) => n + t.length, 0)).toBeLessThanOrEqual(10_000)
        },
      ),
      { numRuns: 200, seed: 20261125 },
    )
  })
})

it('the fixture packs as it says', () => expect(deflateRawSync(Buffer.alloc(1000)).length).toBeLessThan(50))
