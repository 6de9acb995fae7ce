import { describe, expect, it } from 'vitest'
import type { RecipeStep, RemedyOffer } from '@stern-gate/contract'
import { subjectsOf } from '../fixtures/measureFixture'
import { crateFiles, type CrateOptions } from '../fixtures/crateFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { openedCrate } from '../fixtures/workFixture'
import { judge } from '../judge/judge'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'

// What a finding offers must mend it whatever other offers of the same report stand before it in the recipe

/** Crates with several faults at once, each of a kind that steps may get into each other's way with. */
const crates: [string, CrateOptions][] = [
  ['unwelded, a hundred times too big', { size: 100, unwelded: true, crack: 0.0003 }],
  ['mirrored, unwelded, too big', { size: 100, nodeScale: [-1, 1, 1], unwelded: true }],
  ['turned, with slivers, no normals that fit', { nodeTurn: 30, slivers: 3, insideOut: 'one-face' }],
  ['green down, named by nobody, embedded', { name: 'Crate final', green: 'down', embed: true }],
  [
    'doubled triangles, strays, scattered',
    { twice: true, strays: ['light', 'empty'], scattered: true, grid: 8 },
  ],
  ['scaled above and below, cracked', { groupScale: [2, 2, 2], nodeScale: [0.5, 1, 1], crack: 0.000005 }],
]

const faultOf = (finding: { rule: string; message: string }): string => finding.rule

async function offersOf(files: Record<string, Uint8Array>) {
  const [subject] = (await subjectsOf(files)).filter((s) => s.kind === 'mesh')
  return judge(subject!).findings.flatMap((f) =>
    f.remedies.slice(0, 1).map((offer) => ({ rule: faultOf(f), message: f.message, offer })),
  )
}

const trianglesOf = async (files: Record<string, Uint8Array>): Promise<number> =>
  (await subjectsOf(files))
    .flatMap((s) => s.mesh?.nodes ?? [])
    .flatMap((n) => n.primitives)
    .reduce((sum, p) => sum + p.triangles, 0)

const stepOf = ({ remedy, options }: RemedyOffer, k: number): RecipeStep => ({
  id: String(k),
  remedy,
  options,
  on: true,
  why: '',
})

describe.each(crates)('a crate that is %s', (_, options) => {
  it('is mended by every two of its offers, in either order', async () => {
    const files = await crateFiles(options)
    const offers = await offersOf(files)
    const kinds = [...new Map(offers.map((o) => [o.offer.remedy, o])).values()]
    expect(kinds.length).toBeGreaterThan(1)
    const triangles = new Map<string, number>()
    for (const a of kinds)
      for (const b of kinds) {
        if (a === b) continue
        const work = await openedCrate(options)
        const done = await applyRecipe(
          work,
          { steps: [stepOf(a.offer, 1), stepOf(b.offer, 2)] },
          fixturePorts,
        )
        expect(done.ok, `${a.offer.remedy} then ${b.offer.remedy}: ${done.ok ? '' : done.fault.why}`).toBe(
          true,
        )
        const made = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
        const left = await offersOf(made)
        // Whichever came first, the same triangles are left
        const pair = [a.offer.remedy, b.offer.remedy].sort().join(' '),
          count = await trianglesOf(made)
        expect(triangles.get(pair) ?? count, pair).toBe(count)
        triangles.set(pair, count)
        const before = (rule: string) => offers.filter((o) => o.rule === rule).length
        for (const { rule, offer } of [a, b])
          expect(
            left.filter((o) => o.rule === rule).length,
            `${a.offer.remedy} then ${b.offer.remedy}: ${offer.remedy} left ${rule}`,
          ).toBeLessThan(before(rule))
      }
  }, 60_000)
})
