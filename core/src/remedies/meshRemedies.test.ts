import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { writeWork } from '../recipe/writeWork'
import { floatsOf, primitiveView } from '../scene/primitiveView'
import { openedCrate } from '../fixtures/workFixture'
import type { Work } from './work'
import { mend, workOf, worldBounds } from '../fixtures/mendFixture'

describe('welding', () => {
  it('joins what is doubled; seams of UVs and hard edges stay', async () => {
    const loose = await openedCrate({ unwelded: true, hull: false }),
      sound = await openedCrate({ hull: false })
    expect((await mend(loose, 'mesh/weld', { distance: 0.0001 })).changed).toBe(true)
    const count = (work: Work) =>
      work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!.getAttribute('POSITION')!.getCount()
    // Eight corners, but three faces meet in each with normals and UVs of their own: 24
    expect([count(loose), count(sound)]).toEqual([24, 24])
    expect((await mend(sound, 'mesh/weld', { distance: 0.0001 })).changed).toBe(false)
  })
  it('closes a crack within the distance, and not beyond it', async () => {
    const near = await openedCrate({ crack: 0.00005, hull: false }),
      far = await openedCrate({ crack: 0.01, hull: false })
    expect((await mend(near, 'mesh/weld', { distance: 0.0001 })).changed).toBe(true)
    expect((await mend(far, 'mesh/weld', { distance: 0.0001 })).changed).toBe(false)
  })
})

describe('UV channels', () => {
  const uvs = (work: Work) =>
    work
      .document!.getRoot()
      .listMeshes()
      .flatMap((m) =>
        m.listPrimitives().map((p) => [0, 1].map((c) => [...floatsOf(p.getAttribute(`TEXCOORD_${c}`)!)])),
      )
  it('swapped twice are as before', async () => {
    const work = await openedCrate({ lightmap: 'atlas', hull: false })
    const before = uvs(work)
    await mend(work, 'uvs/exchange', { a: 0, b: 1 })
    expect(uvs(work)).toEqual(before.map(([a, b]) => [b, a]))
    await mend(work, 'uvs/exchange', { a: 0, b: 1 })
    expect(uvs(work)).toEqual(before)
  })
})

describe('tangents', () => {
  it('follow u, stand on the normal, and turn their sign where UVs are mirrored', async () => {
    const signs = []
    for (const uvMirrored of [false, true]) {
      const work = await openedCrate({ tangents: 'none', uvMirrored })
      await mend(work, 'mesh/generate-tangents')
      const primitive = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
      const tangents = floatsOf(primitive.getAttribute('TANGENT')!),
        normals = floatsOf(primitive.getAttribute('NORMAL')!)
      for (let v = 0; v < normals.length / 3; v++)
        expect(
          normals[v * 3]! * tangents[v * 4]! +
            normals[v * 3 + 1]! * tangents[v * 4 + 1]! +
            normals[v * 3 + 2]! * tangents[v * 4 + 2]!,
        ).toBeCloseTo(0, 4)
      signs.push(new Set(Array.from({ length: tangents.length / 4 }, (_, v) => tangents[v * 4 + 3])))
    }
    expect(signs[0]!.has(1)).toBe(true)
    expect(signs[1]!.has(-1)).toBe(true)
  })
})

describe('reducing', () => {
  it('takes triangles out to the wanted number; what stays is where it was, with all that it carried', async () => {
    const work = await openedCrate({ grid: 12 })
    const vertices = () => {
      const primitive = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!,
        { indices, positions, uvs } = primitiveView(primitive),
        normals = floatsOf(primitive.getAttribute('NORMAL')!)
      return {
        triangles: indices.length / 3,
        all: new Set(
          Array.from({ length: positions.length / 3 }, (_, v) =>
            [
              ...positions.subarray(v * 3, v * 3 + 3),
              ...normals.subarray(v * 3, v * 3 + 3),
              ...uvs[0]!.subarray(v * 2, v * 2 + 2),
            ].join(),
          ),
        ),
      }
    }
    const before = vertices(),
      bounds = await worldBounds(work.document!)
    expect(await mend(work, 'mesh/reduce', { triangles: 500 })).toMatchObject({ changed: true })
    const after = vertices()
    expect([before.triangles, after.triangles <= 500, after.triangles > 400]).toEqual([1728, true, true])
    expect([...after.all].every((v) => before.all.has(v))).toBe(true)
    expect(await worldBounds(work.document!)).toEqual(bounds)
    expect((await mend(work, 'mesh/reduce', { triangles: 500 })).changed).toBe(false)
  })
  it('keeps every vertex of an open border where it is', async () => {
    const side = 12
    const document = sheetOf(side),
      work = workOf(document)
    const border = (): string[] => {
      const { positions, indices } = primitiveView(document.getRoot().listMeshes()[0]!.listPrimitives()[0]!)
      const used = new Set(
        [...indices].map((v) => `${positions[v * 3]} ${positions[v * 3 + 1]} ${positions[v * 3 + 2]}`),
      )
      const onEdge = ([x, , z]: string[]): boolean => [x, z].some((c) => c === '0' || c === String(side))
      return [...used].filter((point) => onEdge(point.split(' '))).sort()
    }
    const before = border()
    expect(before).toHaveLength(side * 4)
    const done = await mend(work, 'mesh/reduce', { triangles: 20, error: 1 })
    expect(done.changed).toBe(true)
    expect(border()).toEqual(before)
  })
  it('ends where the surface would move too far, and leaves broken triangles alone', async () => {
    const work = await openedCrate({ grid: 4 })
    const done = await mend(work, 'mesh/reduce', { triangles: 2, error: 0.001 })
    expect(done.said).toContain('fewer would move the surface too far')
    expect(
      (await mend(await openedCrate({ grid: 4, brokenIndex: true }), 'mesh/reduce', { triangles: 20 }))
        .changed,
    ).toBe(false)
  })
})

describe('reordering', () => {
  it('keeps every triangle, corner by corner, and does nothing the second time', async () => {
    const work = await openedCrate({ scattered: true, grid: 10 })
    const corners = () => {
      const primitive = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
      const { indices, positions } = primitiveView(primitive),
        uv = floatsOf(primitive.getAttribute('TEXCOORD_0')!)
      const triangles = Array.from({ length: indices.length / 3 }, (_, t) => {
        const list = [0, 1, 2].map((i) =>
          [
            ...positions.subarray(indices[t * 3 + i]! * 3, indices[t * 3 + i]! * 3 + 3),
            ...uv.subarray(indices[t * 3 + i]! * 2, indices[t * 3 + i]! * 2 + 2),
          ].join(),
        )
        const first = list.indexOf([...list].sort()[0]!)
        return [...list.slice(first), ...list.slice(0, first)].join(' ')
      })
      return triangles.sort()
    }
    const before = corners()
    expect((await mend(work, 'mesh/reorder')).changed).toBe(true)
    expect(corners()).toEqual(before)
    expect((await mend(work, 'mesh/reorder')).changed).toBe(false)
  })
})

describe('limiting influences', () => {
  it('keeps the strongest bones and makes their weights add up to 1', async () => {
    const work = await openedCrate({ skin: { bones: 6 } })
    const primitive = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
    floatsOf(primitive.getAttribute('WEIGHTS_1')!).set([0.9, 0.3], 0)
    await mend(work, 'mesh/limit-influences', { most: 2 })
    expect(primitive.getAttribute('WEIGHTS_1')).toBeNull()
    expect(
      [...floatsOf(primitive.getAttribute('WEIGHTS_0')!).subarray(0, 4)].map((v) => Number(v.toFixed(4))),
    ).toEqual([0.75, 0.25, 0, 0])
    expect([...floatsOf(primitive.getAttribute('JOINTS_0')!).subarray(0, 2)]).toEqual([4, 5])
    expect((await mend(work, 'mesh/limit-influences', { most: 2 })).changed).toBe(false)
  })
})

describe('taking in', () => {
  const bounds = (work: Work) => worldBounds(work.document!)
  it('in centimetres with Z up: a tenth of a tenth, and upright', async () => {
    const work = await openedCrate({ size: 100, hull: false })
    work.document!.getRoot().listNodes()[0]!.setScale([1, 1, 3])
    expect((await mend(work, 'files/intake', { unit: 'centimetre', up: '+Z' })).changed).toBe(true)
    const { min, max } = await bounds(work)
    expect([0, 1, 2].map((i) => Number((max[i]! - min[i]!).toFixed(4)))).toEqual([1, 3, 1])
  })
  it('leaves out what is not wanted, and keeps the rest', async () => {
    const work = await openedCrate({
      strays: ['light', 'camera'],
      clip: 'crate@open',
      colours: 'varied',
      unusedSlot: 'crate-old',
      lightmap: 'atlas',
    })
    await mend(work, 'files/intake', { clips: false, colours: false, lightmap: 'none', cameras: false })
    const root = work.document!.getRoot()
    expect([
      root.listAnimations().length,
      root.listCameras().length,
      root.listMaterials().map((m) => m.getName()),
    ]).toEqual([0, 0, ['crate-wood']])
    expect(root.listMeshes()[0]!.listPrimitives()[0]!.listSemantics().sort()).toEqual([
      'NORMAL',
      'POSITION',
      'TEXCOORD_0',
    ])
  })
  it('keeps cameras as views, and takes levels in or leaves them out', async () => {
    const work = await openedCrate({ strays: ['light', 'camera'], levels: 3, grid: 4 })
    await mend(work, 'files/intake', {})
    const names = () =>
      work
        .document!.getRoot()
        .listNodes()
        .map((n) => n.getName())
    expect(work.document!.getRoot().listCameras()).toHaveLength(1)
    expect(names()).toEqual([
      'harbour_crate_a_lod0',
      'harbour_crate_a_lod1',
      'harbour_crate_a_lod2',
      'harbour_crate_a_hull',
      'scene_camera',
    ])
    await mend(work, 'files/intake', { levels: 'finest' })
    expect(names()).toEqual(['harbour_crate_a_lod0', 'harbour_crate_a_hull', 'scene_camera'])
    expect(work.document!.getRoot().listMeshes()).toHaveLength(2)
  })
  it('takes textures out as files where that is wanted', async () => {
    const inside = await openedCrate({ embed: true }),
      out = await openedCrate({ embed: true })
    await mend(inside, 'files/intake', { textures: 'as they came' })
    await mend(out, 'files/intake')
    expect(inside.textures.map((t) => t.path)).toEqual([null, null, null])
    expect(out.textures.map((t) => t.path)).toEqual(
      ['basecolor', 'normal', 'orm'].map((role) => `props/textures/harbour_crate_a_${role}.png`),
    )
  })
  it('of what is right already changes nothing', async () =>
    expect((await mend(await openedCrate(), 'files/intake')).changed).toBe(false))
})

describe('writing', () => {
  it('leaves out what a step put something else in place of', async () => {
    const work = await openedCrate({ scattered: true, grid: 10 })
    const size = async () => (await writeWork(work)).find((f) => f.part === 'mesh')!.bytes.length
    const before = await size()
    await mend(work, 'mesh/reorder')
    await mend(work, 'mesh/recompute-normals')
    expect(await size()).toBeLessThan(before * 1.02)
  })
})

describe('merging slots', () => {
  it('joins the parts that then share a slot, and keeps every triangle', async () => {
    const work = await openedCrate({ faceSlots: ['crate-wood', 'crate-iron'] })
    const triangles = () =>
      work
        .document!.getRoot()
        .listMeshes()[0]!
        .listPrimitives()
        .map((p) => primitiveView(p).indices.length / 3)
    expect(triangles()).toEqual([6, 6])
    await mend(work, 'slots/merge', { slot: 'crate-iron', keep: 'crate-wood' })
    expect(triangles()).toEqual([12])
    expect(
      work
        .document!.getRoot()
        .listMaterials()
        .map((m) => m.getName()),
    ).toEqual(['crate-wood'])
  })
})

/** A flat sheet of side × side squares from 0 to side, open all around. */
function sheetOf(side: number): Document {
  const document = new Document(),
    buffer = document.createBuffer()
  const positions: number[] = [],
    indices: number[] = []
  for (let z = 0; z <= side; z++) for (let x = 0; x <= side; x++) positions.push(x, 0, z)
  const at = (x: number, z: number): number => z * (side + 1) + x
  for (let z = 0; z < side; z++)
    for (let x = 0; x < side; x++)
      indices.push(at(x, z), at(x, z + 1), at(x + 1, z), at(x + 1, z), at(x, z + 1), at(x + 1, z + 1))
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      document.createAccessor().setType('VEC3').setArray(new Float32Array(positions)).setBuffer(buffer),
    )
    .setIndices(document.createAccessor().setArray(new Uint32Array(indices)).setBuffer(buffer))
  const node = document.createNode('sheet').setMesh(document.createMesh().addPrimitive(primitive))
  document.createScene().addChild(node)
  return document
}
