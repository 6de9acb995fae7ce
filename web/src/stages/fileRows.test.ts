import { describe, expect, it } from 'vitest'
import type { AssetState, BenchTexture } from '@stern-gate/contract'
import { fileRows, placeFor, placesAs, placesByName } from './fileRows'

const texture = (name: string, more: Partial<BenchTexture> = {}): BenchTexture => ({
  name,
  path: `quay/${name}`,
  embedded: false,
  sha256: null,
  role: null,
  roleFrom: 'unknown',
  tile: null,
  uses: [],
  content: null,
  asStored: null,
  facts: null,
  fault: null,
  ...more,
})
const feeds = (input: 'basecolor' | 'normal') => [{ slot: 'stone', input, field: input, channel: 0 }]
const state = (more: Partial<AssetState>): AssetState =>
  ({
    references: [],
    textures: [],
    tileSets: [],
    files: [{ path: 'quay/wall.glb', part: 'mesh', sizeBytes: 10, sha256: '' }],
    ...more,
  }) as AssetState
const brought = (path: string) => ({ path, file: new File([], path) })

describe('files that did not come', () => {
  it('have a place by the path that was asked for, one that leads outside beside the mesh by its name', () => {
    const lost = {
      kind: 'image' as const,
      resolved: null,
      how: null,
      slots: [{ slot: 'stone', input: 'normal' as const }],
    }
    const rows = fileRows(
      state({
        references: [
          { ...lost, asked: 'quay/maps/wall_normal.png', unsafe: null },
          { ...lost, asked: 'wall_rough.png', unsafe: 'It is absolute.' },
        ],
      }),
    )
    expect(rows.map((r) => r.wanted)).toEqual(['quay/maps/wall_normal.png', 'quay/wall_rough.png'])
    expect(rows.map((r) => r.said)).toEqual([
      'did not come · normal of stone',
      'did not come, asked for by a path that leads outside · normal of stone',
    ])
  })
  it('tiles between the first and the last have a place each, those that came belong to the one that is used', () => {
    const tiles = [1001, 1002, 1004].map((number) => ({ number, texture: `wall_basecolor.${number}.png` }))
    const rows = fileRows(
      state({
        textures: tiles.map(({ texture: name, number }) =>
          texture(name, { tile: number, uses: number === 1001 ? feeds('basecolor') : [] }),
        ),
        tileSets: [
          {
            name: 'wall_basecolor',
            tiles,
            missing: [{ number: 1003, path: 'quay/wall_basecolor.1003.png' }],
          },
        ],
      }),
    )
    expect(rows.map((r) => [r.wanted, r.said, r.link])).toEqual([
      [
        'quay/wall_basecolor.1003.png',
        'did not come · tile 1003 of wall_basecolor, which runs from 1001 to 1004',
        'dashed',
      ],
      [null, 'basecolor of stone', 'solid'],
      [null, 'tile 1002 of wall_basecolor', 'solid'],
      [null, 'tile 1004 of wall_basecolor', 'solid'],
    ])
  })
  it('of very many tiles the first 24 are shown, and the rest is counted', () => {
    const missing = Array.from({ length: 90 }, (_, i) => ({
      number: 1002 + i,
      path: `quay/wall.${1002 + i}.png`,
    }))
    const rows = fileRows(
      state({
        tileSets: [
          {
            name: 'wall',
            tiles: [
              { number: 1001, texture: 'wall.1001.png' },
              { number: 1092, texture: 'wall.1092.png' },
            ],
            missing,
          },
        ],
      }),
    )
    expect(rows).toHaveLength(24)
    expect(rows.at(-1)!.said).toContain('66 more after it')
  })
})

describe('what is brought', () => {
  it('takes the path of its place and keeps its own extension', () => {
    expect(placeFor('quay/wall_basecolor.1003.png', 'new.tga')).toBe('quay/wall_basecolor.1003.tga')
    expect(placeFor('quay/wall_basecolor.1003.png', 'bare')).toBe('quay/wall_basecolor.1003')
  })
  it('several files go to the places of their names, whatever their capitals; others stay out', () => {
    const rows = fileRows(
      state({
        tileSets: [
          {
            name: 'wall',
            tiles: [
              { number: 1001, texture: 'a' },
              { number: 1004, texture: 'b' },
            ],
            missing: [
              { number: 1002, path: 'quay/wall.1002.png' },
              { number: 1003, path: 'quay/wall.1003.png' },
            ],
          },
        ],
      }),
    )
    expect(
      placesByName(rows, [
        brought('in/Wall.1003.PNG'),
        brought('in/wall.1002.tga'),
        brought('in/other.png'),
      ]).map((f) => f.path),
    ).toEqual(['quay/wall.1003.PNG', 'quay/wall.1002.tga'])
  })
})

describe('a file that is given to a level', () => {
  const placesOf = (mesh: string, as: Parameters<typeof placesAs>[1], paths: string[]) =>
    placesAs(mesh, as, paths.map(brought)).map((f) => f.path)
  it('is named after the mesh, and what comes with it stays what it is called', () => {
    expect(placesOf('quay/wall.glb', 'lod2', ['far/Wall small (3).obj', 'far/wall.mtl'])).toEqual([
      'quay/wall_lod2.obj',
      'quay/wall.mtl',
    ])
    expect(placesOf('wall_lod0.glb', 'lod1', ['x.GLB'])).toEqual(['wall_lod1.GLB'])
    expect(placesOf('wall.gltf', 'hull', ['box.stl'])).toEqual(['wall_hull.stl'])
  })
})
