import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { readTextureHeader } from '@stern-gate/core'
import { pixelsOf, pngOf, rollingNormal } from '@stern-gate/core/fixtures'
import { runIn } from './testProgram'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-encode-'))
  const colour = pixelsOf(32, 32, 3, (x, y) => [90 + x * 3, 60 + y * 4, 120])
  await writeFile(join(folder, 'crate_basecolor.png'), pngOf(colour))
  await writeFile(join(folder, 'crate_normal.png'), pngOf(rollingNormal(32, 'up')))
})
const headerOf = async (path: string) => readTextureHeader(await readFile(join(folder, path)), path)

describe('stern-gate encode', () => {
  it('writes what the target stores each role in, and says what it loses', async () => {
    const { out, exit } = await runIn(folder, ['encode', '.', '--into', 'desk', '--quality', 'fast'])
    expect(exit).toBe(0)
    expect(out).toMatch(/crate_basecolor\.ktx2 {2}BC7, 6 levels, 1 KiB in memory, \d\d\.\d dB/)
    expect(out).toMatch(/crate_normal\.ktx2 {2}BC5, 6 levels, 1 KiB in memory, \d\.\d\d° off, 95 % within/)
    expect(await headerOf('desk/crate_normal.ktx2')).toMatchObject({
      value: { blockFormat: 'BC5', colourSpace: 'linear' },
    })
  })
  it('takes a format by hand, in plain letters, and a DDS', async () => {
    const { out, exit } = await runIn(folder, [
      'encode',
      'crate_basecolor.png',
      '--into',
      'astc',
      '--to',
      'astc8x8',
      '--quality',
      'fast',
      '--no-mips',
      '--format',
      'json',
    ])
    expect(exit).toBe(0)
    const { encoded } = JSON.parse(out) as { encoded: { facts: { plan: object; levels: number } }[] }
    expect(encoded[0]!.facts).toMatchObject({ plan: { format: 'ASTC 8×8', role: 'basecolor' }, levels: 1 })
    const dds = await runIn(folder, ['encode', '.', '--into', 'dds', '--to', 'BC3', '--container', 'dds'])
    expect(dds.exit).toBe(0)
    expect(await headerOf('dds/crate_basecolor.dds')).toMatchObject({ value: { blockFormat: 'BC3' } })
  })
  it('says what cannot be: a format, a container, nothing to encode', async () => {
    const wrong = await runIn(folder, ['encode', '.', '--into', 'x', '--to', 'jpeg'])
    expect([wrong.exit, wrong.err]).toEqual([2, expect.stringContaining('--to takes no jpeg')])
    const dds = await runIn(folder, [
      'encode',
      'crate_basecolor.png',
      '--into',
      'x',
      '--to',
      'ETC2',
      '--container',
      'dds',
    ])
    expect([dds.exit, dds.out]).toEqual([1, expect.stringContaining('DDS has no number for ETC2')])
    const none = await mkdtemp(join(tmpdir(), 'stern-encode-none-'))
    expect((await runIn(none, ['encode', '.', '--into', 'x'])).exit).toBe(2)
  })
})
