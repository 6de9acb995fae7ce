import { describe, expect, it } from 'vitest'
import type { MeshFacts, Recipe } from '@stern-gate/contract'
import { measureFixture } from '../fixtures/measureFixture'
import { crateFiles } from '../fixtures/crateFixture'
import { surfaceFileOf } from './surfaceFile'
import { wearersOf, withSurfaceFile, type CameSurface, type WearingMesh } from './giveSurfaceFile'

const facts = (await measureFixture(await crateFiles({ hull: false, embed: false }))).find(
  (f) => f.facts?.kind === 'mesh',
)!.facts as MeshFacts
const slot = facts.slots![0]!
const mesh = (name: string, folder: string, more: Partial<WearingMesh> = {}): WearingMesh => ({
  name,
  path: `${folder}/${name}.gltf`,
  slots: facts.slots!,
  images: facts.file.images,
  textures: facts.file.images.map((i) => `${folder}/${i.uri}`),
  ...more,
})
const came = (path: string, more: Partial<CameSurface['file']> = {}): CameSurface => ({
  path,
  file: {
    ...surfaceFileOf(
      slot,
      (image) => facts.file.images.find((i) => i.index === image)?.uri?.replace(/^/, 'maps/') ?? null,
    ),
    surface: 'wet',
    ...more,
  },
})
const empty: Recipe = { steps: [] }
let next = 0
const newId = (): string => `step-${next++}`

describe('a surface file that came', () => {
  it('is for the meshes beside it with that slot, of several for those whose name it bears', () => {
    const meshes = [
      mesh('crate', 'a'),
      mesh('barrel', 'a'),
      mesh('crate', 'b'),
      mesh('rope', 'a', { slots: [] }),
    ]
    const names = (path: string) => wearersOf(came(path), meshes).map((m) => m.path)
    expect(names('a/crate_wood.surface.json')).toEqual(['a/crate.gltf'])
    expect(names('a/wood.surface.json')).toEqual(['a/crate.gltf', 'a/barrel.gltf'])
    // Elsewhere only one that cannot be mistaken
    expect(names('c/crate_wood.surface.json')).toEqual([])
    expect(wearersOf(came('c/x.surface.json'), meshes.slice(2)).map((m) => m.path)).toEqual(['b/crate.gltf'])
    expect(wearersOf(came('a/x.surface.json', { slot: 'glass' }), meshes)).toEqual([])
  })
  it('becomes steps, without giving textures that are there already', () => {
    const { steps } = withSurfaceFile(empty, came('a/crate.surface.json'), mesh('crate', 'a'), newId)
    expect(steps.map((s) => [s.remedy, s.why])).toEqual([
      ['slots/surface', 'surface file crate.surface.json'],
    ])
    expect(steps[0]!.options).toMatchObject({ slot: slot.name, called: 'wet' })
  })
  it('gives the textures that came and do not feed the slot yet', () => {
    const bare = mesh('crate', 'a', { images: [], slots: [{ ...slot, textures: [] }] })
    const { steps } = withSurfaceFile(empty, came('a/crate.surface.json'), bare, newId)
    expect(steps[0]).toMatchObject({
      remedy: 'slots/feed',
      options: {
        slot: slot.name,
        basecolor: 'harbour_crate_a_basecolor.png',
        normal: 'harbour_crate_a_normal.png',
        orm: 'harbour_crate_a_orm.png',
      },
    })
  })
  it('replaces what an earlier one brought, keeps what was set by hand, and changes nothing the second time', () => {
    const file = came('a/crate.surface.json', { detail: { uv: 0, tiling: 4, colour: 1, normal: 1 } })
    const byHand: Recipe = {
      steps: [
        {
          id: 'hand',
          remedy: 'slots/surface',
          options: { slot: slot.name, roughness: 0.1 },
          on: true,
          why: 'own',
        },
      ],
    }
    const once = withSurfaceFile(byHand, file, mesh('crate', 'a'), newId)
    expect(once.steps.map((s) => s.remedy)).toEqual(['slots/surface', 'slots/detail'])
    expect(once.steps[0]).toEqual(byHand.steps[0])
    expect(withSurfaceFile(once, file, mesh('crate', 'a'), newId)).toBe(once)
    const later = came('a/crate.surface.json', { detail: { uv: 0, tiling: 9, colour: 1, normal: 1 } })
    const twice = withSurfaceFile(
      { steps: once.steps.map((s) => ({ ...s, on: s.remedy !== 'slots/detail' })) },
      later,
      mesh('crate', 'a'),
      newId,
    )
    // The same step, still switched off
    expect(twice.steps[1]).toMatchObject({ id: once.steps[1]!.id, options: { tiling: 9 }, on: false })
  })
})
