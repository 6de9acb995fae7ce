import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { fixturePorts } from '../../fixtures/pngFixture'
import { boxOf, cutHalf } from '../../fixtures/crateShape'
import { countTopology } from '../../measure/countTopology'
import { cornersOf, placeMesh } from '../../measure/placedMesh'
import type { Work } from '../work'
import { mirrorHalf } from './mirrorHalf'

/** Half of a box of two metres with a smooth rounded front: everything at x ≥ 0, open at x = 0. */
function half(place: (node: ReturnType<Document['createNode']>) => void = () => undefined) {
  const document = new Document()
  const buffer = document.createBuffer()
  const box = boxOf(2, [0, 0, 0], 2)
  cutHalf(box, 0)
  const list = (type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', list('VEC3', Float32Array.from(box.positions)))
    .setAttribute('NORMAL', list('VEC3', Float32Array.from(box.normals)))
    .setAttribute('TEXCOORD_0', list('VEC2', Float32Array.from(box.uvs)))
    .setAttribute(
      'TANGENT',
      list('VEC4', Float32Array.from(box.normals.flatMap((_, k) => (k % 3 ? [] : [0, 1, 0, 1])))),
    )
    .setIndices(list('SCALAR', Uint32Array.from(box.indices)))
    .setMaterial(document.createMaterial('planks'))
  const node = document.createNode('door').setMesh(document.createMesh('door').addPrimitive(primitive))
  place(node)
  document.createScene().addChild(node)
  const work: Work = { name: 'door', kind: 'mesh', path: 'door.glb', document, textures: [], missing: [] }
  return { work, node, primitive }
}
const facts = (node: ReturnType<typeof half>['node']) => {
  const placed = placeMesh(node, () => null)
  const { topology } = countTopology({
    corners: cornersOf(placed),
    places: placed.places,
    winding: placed.winding,
    nearDistance: 0,
  })
  return { bounds: placed.bounds!, topology }
}

describe('a mirrored half', () => {
  it.each([
    ['as it lies', () => undefined, 0],
    [
      'moved, turned about X and scaled',
      (n: ReturnType<typeof half>['node']) =>
        n.setTranslation([3, 1, 0]).setRotation([0.6, 0, 0, 0.8]).setScale([2, 2, 2]),
      3,
    ],
    ['mirrored by its node', (n: ReturnType<typeof half>['node']) => n.setScale([-1, 1, 1]), 0],
  ])('is a closed whole of twice the volume: %s', async (_, place, at) => {
    const { work, node, primitive } = half(place as never)
    const before = facts(node)
    expect(before.topology.openEdges).toBe(8)
    const done = await mirrorHalf.apply(work, { node: 'door', axis: 'X', at }, fixturePorts)
    expect(done).toMatchObject({ ok: true, value: { changed: true, said: '24 triangles mirrored' } })
    const after = facts(node)
    expect([after.topology.openEdges, after.topology.insideOut, after.topology.nonManifoldEdges]).toEqual([
      0, 0, 0,
    ])
    const scale = node.getScale()[1]!
    expect(after.topology.volume).toBeCloseTo(8 * scale ** 3, 3)
    expect((after.bounds.min[0]! + after.bounds.max[0]!) / 2).toBeCloseTo(at, 5)
    // Twice is once
    expect(await mirrorHalf.apply(work, { node: 'door', axis: 'X', at }, fixturePorts)).toMatchObject({
      ok: true,
      value: { changed: false },
    })
    expect(primitive.getMaterial()!.getName()).toBe('planks')
  })
  it('keeps UVs, turns normals and the sign of tangents, and shares the vertices in the plane', async () => {
    const { work, primitive } = half()
    const vertices = new Set(primitive.getIndices()!.getArray()!)
    await mirrorHalf.apply(work, { node: 'door', axis: 'X', at: 0 }, fixturePorts)
    const read = (name: string) => primitive.getAttribute(name)!
    const positions = read('POSITION'),
      inPlane = Array.from(
        { length: positions.getCount() },
        (_, v) => positions.getElement(v, [])[0]!,
      ).filter((x) => x === 0).length
    // Twelve in the plane (three a side of four) serve both halves
    expect([positions.getCount(), inPlane]).toEqual([vertices.size * 2 - 12, 12])
    const at = (want: [number, number, number], normal: [number, number, number]) =>
      Array.from({ length: positions.getCount() }, (_, v) => v).find(
        (v) =>
          positions.getElement(v, []).every((x, i) => Math.abs(x - want[i]!) < 1e-6) &&
          read('NORMAL')
            .getElement(v, [])
            .every((x, i) => Math.abs(x - normal[i]!) < 1e-6),
      )!
    const right = at([1, 2, 1], [1, 0, 0]),
      left = at([-1, 2, 1], [-1, 0, 0])
    expect(read('TEXCOORD_0').getElement(left, [])).toEqual(read('TEXCOORD_0').getElement(right, []))
    expect([read('TANGENT').getElement(right, [])[3], read('TANGENT').getElement(left, [])[3]]).toEqual([
      1, -1,
    ])
  })
  it('leaves another node that shows the same mesh as it is', async () => {
    const { work, node } = half()
    const other = work.document!.createNode('twin').setMesh(node.getMesh())
    work.document!.getRoot().listScenes()[0]!.addChild(other)
    await mirrorHalf.apply(work, { node: 'door', axis: 'X', at: 0 }, fixturePorts)
    expect(facts(other).topology.openEdges).toBe(8)
    expect(facts(node).topology.openEdges).toBe(0)
  })
})
