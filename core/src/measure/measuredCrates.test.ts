import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { crateFiles, type CrateOptions } from '../fixtures/crateFixture'
import { factsThatChanged, flatFacts } from '../fixtures/flatFacts'
import { measureFixture } from '../fixtures/measureFixture'

const plain: CrateOptions = { grid: 2, textureSize: [64, 64] }

/** Crates that differ from the plain one in a thing or two, so that every measure has something to say. */
const crates: Record<string, CrateOptions> = {
  'broken triangles': { slivers: 3, brokenIndex: true, twice: true, crumb: true, hole: true },
  'an open half': { half: 'X' },
  'a crack and a fin': { crack: 0.000004, fin: true },
  'faces turned over': { insideOut: 'one-face', normals: 'turned' },
  'all turned over, no normals': { insideOut: 'all', normals: 'none' },
  'places that are none': { nan: 'positions', normals: 'long' },
  'UVs that are none': { nan: 'uvs', uvLine: true },
  'corners apart, in no order': { unwelded: true, scattered: true, grid: 6 },
  'cut off everywhere': { allSeams: true, tangents: 'broken' },
  'a wedge under a turned group': { wedge: 'Y', groupTurn: 30, groupScale: [1, 2, 0.5], at: [0.25, 1, -3] },
  'mirrored and repeated on the sheet': { uvMirrored: true, uvScale: 3, nodeScale: [-1, 1, 1] },
  'a lightmap that overlaps': { lightmap: 'overlap', uvs: 'atlas' },
  'a lightmap side by side, and one slot a face': { lightmap: 'tight', faceSlots: ['a', 'b', 'c'] },
  'three levels beside one another': { levels: 3, grid: 4, levelOff: 0.01, coverages: [0.4, 0.1, 0.01] },
  'a level cut otherwise': { levels: 2, grid: 4, sameGrid: true, cut: 'coarser', bareLevels: true },
  'bones, a clip and colours': {
    skin: { bones: 5, sum: 0.9, ends: 2 },
    clip: 'crate@open',
    clipLoop: true,
    colours: 'grey-varied',
  },
  'a decal, strays and another thing': {
    decal: 0.004,
    strays: ['light', 'camera', 'empty'],
    beside: 'barrel',
    copyright: '2026 Gullwick Harbour',
  },
  'open collision': { hullKind: 'open' },
  'collision that is too wide': { hullKind: 'wide', innerWall: 0.9 },
  'a variant, a second layer and tints': {
    variant: 'partly',
    levels: 2,
    tints: 'RG',
    alphaMode: 'MASK',
    surfaceOf: { transmission: 0.5, ior: 1.33 },
  },
  'pictures inside the file': { embed: true, green: 'down', alpha: 'soft', normalAs: 'short' },
  'bump for a normal map, soft colour': { normalAs: 'bump', basecolorAs: 'soft', metalAs: 'between' },
  'a normal map of object space, an island': { normalAs: 'object', basecolorAs: 'island', padding: 3 },
  'diffuse and specular': {
    specularGloss: true,
    loose: { 'a_height.png': 'height', 'b_mask.png': 'mask-red' },
  },
  'channels in another order': { ormOrder: 'mro', basecolorSpace: 'other', alpha: 'two-valued' },
}

describe('what is measured of crates', () => {
  it('is, of the plain one, this', async () => {
    const facts = flatFacts(await measureFixture(await crateFiles(plain)))
    await expect(textOf(Object.fromEntries(facts))).toMatchFileSnapshot(fileOf('the plain one'))
  })
  it.each(Object.keys(crates))('and of one with %s it differs by this', async (words) => {
    const [was, is] = (
      await Promise.all(
        [plain, { ...plain, ...crates[words] }].map(async (c) => measureFixture(await crateFiles(c))),
      )
    ).map(flatFacts) as [ReturnType<typeof flatFacts>, ReturnType<typeof flatFacts>]
    await expect(textOf(factsThatChanged(was, is))).toMatchFileSnapshot(fileOf(words))
  })
})

const textOf = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`
const fileOf = (words: string): string =>
  join(import.meta.dirname, '../fixtures/cases/measured', `${words.replaceAll(/[^a-zA-Z]+/g, '-')}.json`)
