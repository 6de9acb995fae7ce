import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { optionsOfOffer } from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { ruleCases } from '../fixtures/ruleCases'
import { openedCrate } from '../fixtures/workFixture'
import { judge } from '../judge/judge'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'
import { readTextureHeader } from '../read/readTextureHeader'
import type { Subject } from '../subject/subject'
import { isSafe, safeRemedies } from './index'
import { findTexture } from './work'

/** Outlines of a mesh from eight sides, as bits of a raster 48 wide; the surface, and the box. */
async function looksOf(files: Record<string, Uint8Array>): Promise<unknown> {
  const [subject] = (await subjectsOf(files)).filter((s) => s.kind === 'mesh')
  const { mesh, bounds } = subject as Subject
  const rounded = (v: number): number => Number(v.toPrecision(5))
  return {
    bounds: bounds && [...bounds.min, ...bounds.max].map(rounded),
    // How far the surface reaches in each of the directions that are measured: its outline from every side
    support: mesh?.nodes?.map((n) => [n.path, n.support.map(rounded)]),
    area: rounded((mesh?.nodes ?? []).flatMap((n) => n.primitives).reduce((sum, p) => sum + p.area, 0)),
    slots: [...subject!.slotShares].map(([slot, share]) => [slot, rounded(share)]),
    colours: subject!.textures
      .filter((t) => t.uses.length > 0)
      .map((t) => [
        t.name,
        t.facts?.channels?.filter((c) => c.name !== 'A').map((c) => [c.name, c.mean, c.deviation]),
        // Without an alpha channel a texture is opaque
        t.facts?.channels?.find((c) => c.name === 'A')?.mean ?? 1,
      ]),
  }
}

async function safelyMended(
  options: CrateOptions,
): Promise<{ before: unknown; after: unknown; steps: number }> {
  const files = await crateFiles(options),
    [subject] = (await subjectsOf(files)).filter((s) => s.kind === 'mesh')
  const steps = judge(subject!)
    .findings.flatMap((f) => f.remedies)
    .flatMap((offer) => optionsOfOffer(offer).map((o) => ({ remedy: offer.remedy, options: o })))
    .filter(({ remedy, options: o }) => isSafe(remedy, o))
  const work = await openedCrate(options)
  const done = await applyRecipe(
    work,
    { steps: steps.map((s, i) => ({ id: String(i), on: true, why: '', ...s })) },
    fixturePorts,
  )
  expect(done.ok).toBe(true)
  const made = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  return { before: await looksOf(files), after: await looksOf(made), steps: steps.length }
}

describe('safe remedies', () => {
  it('are these, and no others', () => {
    expect(safeRemedies.map((r) => r.id)).toEqual([
      'colour/drop-alpha',
      'mesh/drop-degenerate',
      'mesh/weld',
      'slots/drop-unused',
    ])
    expect(isSafe('mesh/weld', { node: null, share: 0 })).toBe(true)
    expect(isSafe('mesh/weld', { node: null, share: 1e-5 })).toBe(false)
    expect(isSafe('mesh/weld', { node: null, distance: 0 })).toBe(true)
    expect(isSafe('mesh/weld', { node: null })).toBe(false)
    expect(isSafe('colour/drop-alpha', { texture: 'x', full: true })).toBe(true)
    // Half clear everywhere is seen
    expect(isSafe('colour/drop-alpha', { texture: 'x' })).toBe(false)
    // Triangles that blend are seen in the order in which they are drawn
    expect(isSafe('mesh/reorder', { node: null })).toBe(false)
    expect(isSafe('names/rename', { what: 'asset', from: 'a', to: 'b' })).toBe(false)
    expect(isSafe('no/such', {})).toBe(false)
  })
  const cases = Object.entries(ruleCases)
    .filter(([id]) => /^(mesh\/(degenerate|doubled)|slots\/unused|colour\/alpha-unused)/.test(id))
    .flatMap(([id, { broken }]) => broken.map((c) => [id, c.words, c.crate] as const))
  it.each(cases)('leave what is seen as it is: %s, %s', async (_, __, options) => {
    const { before, after } = await safelyMended(options)
    expect(after).toEqual(before)
  })
  it.each([
    ['full', true, 'has no alpha channel now', true],
    ['soft', true, 'is not full everywhere', false],
    ['soft', false, 'has no alpha channel now', true],
  ] as const)('of an alpha that is %s, asked for only where full: %s', async (alpha, full, said, changes) => {
    const work = await openedCrate({ alpha }),
      { name } = work.textures.find((t) => t.name.includes('basecolor'))!
    const step = { id: '1', remedy: 'colour/drop-alpha', options: { texture: name, full }, on: true, why: '' }
    const before = findTexture(work, name)!.bytes
    const done = await applyRecipe(work, { steps: [step] }, fixturePorts)
    expect(done).toMatchObject({
      ok: true,
      value: [{ changed: changes, said: expect.stringContaining(said) }],
    })
    const header = readTextureHeader(findTexture(work, name)!.bytes, name)
    expect(header).toMatchObject({ ok: true, value: { alpha: !changes } })
    expect(findTexture(work, name)!.bytes === before).toBe(!changes)
  })
  it('leave crates of any kind as they look', async () => {
    let steps = 0
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          grid: fc.integer({ min: 1, max: 12 }),
          slivers: fc.integer({ min: 0, max: 4 }),
          unwelded: fc.boolean(),
          scattered: fc.boolean(),
          nodeTurn: fc.integer({ min: 0, max: 90 }),
          unusedSlot: fc.constantFrom(undefined, 'crate-paint'),
          alpha: fc.constantFrom(undefined, 'full' as const),
        }),
        async ({ unusedSlot, alpha, ...rest }) => {
          const made = await safelyMended({
            ...rest,
            ...(unusedSlot ? { unusedSlot } : {}),
            ...(alpha ? { alpha } : {}),
          })
          steps += made.steps
          expect(made.after).toEqual(made.before)
        },
      ),
      { numRuns: 15 },
    )
    expect(steps).toBeGreaterThan(10)
  })
})
