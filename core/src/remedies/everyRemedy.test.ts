import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { OptionValue, RemedyField, RemedyOptions } from '@stern-gate/contract'
import type { CrateOptions } from '../fixtures/crateFixture'
import { factsThatChanged, flatFacts } from '../fixtures/flatFacts'
import { measureFixture } from '../fixtures/measureFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { openedCrate } from '../fixtures/workFixture'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'
import { remedies } from './index'
import { remedyInfo } from './remedyFields'

/** What a field takes that has no default: things of the crate, by their names. */
const things: Partial<Record<RemedyField['kind'], OptionValue>> = {
  slot: 'crate-wood',
  texture: 'harbour_crate_a_normal.png',
  node: 'harbour_crate_a_lod1',
  clip: 'crate@open',
  colour: '#406080',
  number: 1,
  whole: 1,
  switch: true,
  text: 'orm',
}
const valueOf = ({ kind, choices, default: given, min, max }: RemedyField): OptionValue => {
  const value = given !== undefined ? given : (choices?.[0] ?? things[kind] ?? null)
  return given === undefined && typeof value === 'number'
    ? Math.max(min ?? -Infinity, Math.min(value, max ?? Infinity))
    : (value as OptionValue)
}

const small = { grid: 2, textureSize: [32, 32] as [number, number] }
/** A crate in order, and one with a little of everything that remedies are for. */
const crates: Record<string, CrateOptions> = {
  'in order': { ...small, levels: 2, clip: 'crate@open' },
  spoiled: {
    ...small,
    levels: 2,
    levelOff: 0.02,
    levelsApart: 2,
    clip: 'crate@open',
    slivers: 2,
    twice: true,
    crumb: true,
    hole: true,
    at: [0.3, 0.1, 0],
    size: 2,
    colours: 'same',
    normals: 'long',
    faceSlots: ['crate-wood', 'crate-iron', 'crate-rope'],
    unusedSlot: 'crate-old',
    lightmap: 'overlap',
    uvScale: 2,
    strays: ['light', 'empty'],
    skin: { bones: 5, sum: 0.8, ends: 1 },
    hullKind: 'dense',
    embed: true,
    metalAs: 'between',
    alpha: 'full',
    loose: { 'a_height.png': 'height' },
  },
}

async function tried(crate: CrateOptions, id: string, options: RemedyOptions): Promise<unknown> {
  const work = await openedCrate(crate),
    before = await writeWork(await openedCrate(crate))
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy: id, options, on: true, why: '' }] },
    fixturePorts,
  )
  if (!done.ok) return { refused: `${done.fault.code}: ${done.fault.why}` }
  const { changed, said } = done.value[0]!
  const [was, is] = await Promise.all(
    [before, await writeWork(work)].map(async (files) =>
      flatFacts(await measureFixture(Object.fromEntries(files.map((f) => [f.path, f.bytes])))),
    ),
  )
  const facts = Object.entries(factsThatChanged(was!, is!))
  return {
    did: changed ? said : `nothing: ${said}`,
    // Of what changes much the first few say enough
    facts: Object.fromEntries(facts.slice(0, 12)),
    more: Math.max(0, facts.length - 12),
  }
}

// Looked over when it is written; from then on what each remedy does and says with its first options is held
describe.each(Object.entries(crates))('every remedy on a crate that is %s', (words, crate) => {
  const found = new Map<string, unknown>()
  it.each(remedies.map((r) => r.id))('%s', async (id) => {
    const remedy = remedies.find((r) => r.id === id)!
    const options = Object.fromEntries(remedyInfo(remedy).fields.map((f) => [f.name, valueOf(f)]))
    const parsed = remedy.options.safeParse(options)
    found.set(id, parsed.success ? await tried(crate, id, options) : { refused: 'these options' })
  })
  it('did and said what it did before', async () => {
    expect(found.size).toBe(remedies.length)
    await expect(`${JSON.stringify(Object.fromEntries(found), null, 2)}\n`).toMatchFileSnapshot(
      join(
        import.meta.dirname,
        '../fixtures/cases/mended',
        `every-remedy-${words.replaceAll(' ', '-')}.json`,
      ),
    )
  })
})
