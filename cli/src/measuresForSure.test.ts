import { mkdtemp, mkdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { measuresForSure } from './measuresForSure'

let home: string
const before = process.env['XDG_CACHE_HOME']

beforeEach(async () => {
  process.env['XDG_CACHE_HOME'] = home = await mkdtemp(join(tmpdir(), 'stern-cache-'))
})
afterEach(() => {
  if (before === undefined) delete process.env['XDG_CACHE_HOME']
  else process.env['XDG_CACHE_HOME'] = before
})

it('knows commands that measure whatever they find', async () => {
  expect(measuresForSure(['check', 'props'])).toBe(true)
  expect(measuresForSure(['facts', 'a.glb'])).toBe(true)
  await mkdir(join(home, 'stern-gate'))
  expect(measuresForSure(['check', 'props'])).toBe(false)
  expect(measuresForSure(['check', 'props', '--no-cache'])).toBe(true)
})

it('opens no thread for those that may not', () => {
  for (const args of [
    [],
    ['rules'],
    ['check'],
    ['check', '--help'],
    ['facts'],
    ['check', 'props', '--cache', 'kept'],
    ['check', 'props', '--cache=kept'],
  ])
    expect(measuresForSure(args), args.join(' ')).toBe(false)
})
