import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import type { FormatSearch } from '@stern-gate/contract'
import { pixelsOf, pngOf, rollingNormal } from '@stern-gate/core/fixtures'
import { runIn } from './testProgram'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-smallest-'))
  const soft = pixelsOf(64, 64, 3, (x, y) => [90 + x, 60 + y, 120])
  await writeFile(join(folder, 'crate_basecolor.png'), pngOf(soft))
  await writeFile(join(folder, 'crate_normal.png'), pngOf(rollingNormal(64, 'up')))
})
const found = async (...more: string[]) => {
  const { out, exit } = await runIn(folder, ['smallest', '.', '--format', 'json', ...more])
  return { exit, ...(JSON.parse(out) as { found: { path: string; role: string; search: FormatSearch }[] }) }
}

describe('stern-gate smallest', () => {
  it('finds for each texture what holds, among the formats of its target, in dB or degrees', async () => {
    const { exit, found: all } = await found('--least', '35')
    expect(exit).toBe(0)
    expect(all.map((f) => [f.path, f.role, f.search.unit])).toEqual([
      ['crate_basecolor.png', 'basecolor', 'dB'],
      ['crate_normal.png', 'normal', 'degrees'],
    ])
    const [colour, normal] = all.map((f) => f.search)
    expect(colour!.best!.error ?? 99).toBeGreaterThanOrEqual(35)
    expect(normal!.best!.error!).toBeLessThanOrEqual(2)
    // The desk takes BC
    expect(new Set(all.flatMap((f) => f.search.tried.map((t) => t.format.slice(0, 2))))).toEqual(
      new Set(['BC']),
    )
    // A soft picture is carried by fewer texels
    expect(colour!.best!.times).toBeGreaterThan(1)
  })
  it('takes formats by hand, says what holds in a line, and ends with 1 where nothing does', async () => {
    const one = await runIn(folder, [
      'smallest',
      'crate_basecolor.png',
      '--among',
      'bc1,astc8x8',
      '--least',
      '30',
    ])
    expect(one.exit).toBe(0)
    expect(one.out).toMatch(
      /crate_basecolor\.png {2}(BC1|ASTC 8×8) at \d+ × \d+, \d+ KiB in memory, \d\d\.\d dB/,
    )
    const none = await runIn(folder, [
      'smallest',
      '.',
      '--among',
      'BC1',
      '--least',
      '110',
      '--out',
      'said.txt',
    ])
    expect([none.exit, none.out]).toEqual([1, ''])
    expect(await readFile(join(folder, 'said.txt'), 'utf8')).toContain('ways holds on all of it')
  })
  it('refuses in words what it cannot take', async () => {
    const wrong = await runIn(folder, ['smallest', '.', '--least', 'much'])
    expect([wrong.exit, wrong.err]).toEqual([2, expect.stringContaining('--least takes dB')])
    expect((await runIn(folder, ['smallest', '.', '--among', 'JPEG'])).exit).toBe(2)
  })
})
