import { expect, it } from 'vitest'
import type { KeptPart, PackagedAsset } from '@stern-gate/contract'
import { packagedScene } from './packagedScene'

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
const part = (name: string, places: number, left = false): KeptPart => ({
  key: name,
  name,
  left,
  triangles: 12,
  vertices: 24,
  size: [1, 1, 1],
  placements: Array.from({ length: places }, (_, i) => ({
    node: `${name}_${i}`,
    matrix: [...identity.slice(0, 12), i, 0, 0, 1],
  })),
})
const asset = (name: string, recipe: PackagedAsset['recipe'] = []): PackagedAsset => ({
  id: null,
  name,
  kind: 'mesh',
  class: 'prop',
  version: 1,
  verdict: 'clear',
  carryOver: [],
  encoded: [],
  notEncoded: [],
  cautions: 0,
  notes: 0,
  main: `desk/meshes/${name}/${name}.glb`,
  recipe,
  made: [],
  lightmap: null,
  levels: [],
  files: [{ path: `desk/meshes/${name}/${name}.glb`, part: 'mesh', sha256: '0'.repeat(64), sizeBytes: 1 }],
  origin: null,
})
const step = (remedy: string, options: PackagedAsset['recipe'][number]['options'] = {}) => ({
  remedy,
  version: 1,
  options,
})

it('places what is in the package, by paths that lead to it, and says what its recipe moved', () => {
  const packed = packagedScene(
    'desk',
    'shed',
    [part('stool', 2), part('bench', 1), part('figure', 0, true), part('held', 1)],
    new Map([
      ['stool', asset('stool', [step('files/intake', { unit: 'as read', strays: true }), step('mesh/weld')])],
      ['bench', asset('bench', [step('scale/rescale', { factor: 0.01 })])],
    ]),
  )!
  expect(packed.scene).toEqual({ name: 'shed', path: 'desk/scenes/shed.gltf', assets: 2, placements: 3 })
  expect(
    JSON.parse(packed.text).nodes.map((n: { name: string; extras: object }) => [n.name, n.extras]),
  ).toEqual([
    ['stool_1', { asset: { name: 'stool', file: '../meshes/stool/stool.glb' }, node: 'stool_0' }],
    ['stool_2', { asset: { name: 'stool', file: '../meshes/stool/stool.glb' }, node: 'stool_1' }],
    [
      'bench',
      {
        asset: {
          name: 'bench',
          file: '../meshes/bench/bench.glb',
          moved: 'its recipe moves or scales it: place it anew',
        },
        node: 'bench_0',
      },
    ],
  ])
})
it('a unit that an intake says moves it; a scene of which nothing is packed has no file', () => {
  const packed = packagedScene(
    'desk',
    'a/b',
    [part('x', 1)],
    new Map([['x', asset('x', [step('files/intake', { unit: 'centimetre' })])]]),
  )!
  expect([packed.scene.path, packed.text.includes('place it anew')]).toEqual(['desk/scenes/a_b.gltf', true])
  expect(packagedScene('desk', 'shed', [part('x', 1)], new Map())).toBeNull()
})
