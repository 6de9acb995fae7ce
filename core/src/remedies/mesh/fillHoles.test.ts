import { Document, type Primitive } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxOf } from '../../fixtures/crateShape'
import { fixturePorts } from '../../fixtures/pngFixture'
import { meshTopology } from '../../geometry/meshTopology'
import { cornersOf, placeMesh } from '../../measure/placedMesh'
import { applyRecipe } from '../../recipe/applyRecipe'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import type { Work } from '../work'

/**
 * A box of `grid` squares a side without the triangles that `without` names, in one primitive or cut after
 * some triangle into two.
 */
function boxWork(grid: number, without: (t: number, centre: number[]) => boolean, cutAt = Infinity): Work {
  const box = boxOf(1, [0, 0, 0], grid),
    document = new Document()
  const buffer = document.createBuffer(),
    mesh = document.createMesh()
  const accessor = (type: 'VEC2' | 'VEC3', values: readonly number[]) =>
    document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer)
  const kept = Array.from({ length: box.indices.length / 3 }, (_, t) =>
    box.indices.slice(t * 3, t * 3 + 3),
  ).filter(
    (corners, t) =>
      !without(
        t,
        [0, 1, 2].map((i) => corners.reduce((sum, v) => sum + box.positions[v * 3 + i]! / 3, 0)),
      ),
  )
  for (const part of [kept.slice(0, cutAt), kept.slice(cutAt)]) {
    if (part.length === 0) continue
    mesh.addPrimitive(
      document
        .createPrimitive()
        .setAttribute('POSITION', accessor('VEC3', box.positions))
        .setAttribute('NORMAL', accessor('VEC3', box.normals))
        .setAttribute('TEXCOORD_0', accessor('VEC2', box.uvs))
        .setIndices(document.createAccessor().setArray(Uint32Array.from(part.flat())).setBuffer(buffer)),
    )
  }
  document.createScene().addChild(document.createNode('box').setMesh(mesh))
  return { name: 'box', kind: 'mesh', path: 'box.glb', document, textures: [], missing: [] }
}

async function fill(work: Work, edges = 8) {
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy: 'mesh/fill-holes', options: { edges }, on: true, why: '' }] },
    fixturePorts,
  )
  if (!done.ok) throw new Error(done.fault.why)
  return done.value[0]!
}

const primitives = (work: Work): Primitive[] => work.document!.getRoot().listMeshes()[0]!.listPrimitives()

function shape(work: Work) {
  const placed = placeMesh(work.document!.getRoot().listNodes()[0]!, () => null)
  return meshTopology(cornersOf(placed), placed.places, placed.winding)
}

describe('mesh/fill-holes', () => {
  it('closes what is missing of flat faces: the box has its volume again, and every triangle looks outward', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 5, max: 9 }), fc.nat(), fc.boolean(), async (grid, seed, square) => {
        const t = seed % (grid * grid * 12)
        const work = boxWork(grid, (i) => i === t || (square && i === (t ^ 1)))
        expect(shape(work).openEdges).toBe(square ? 4 : 3)
        expect(await fill(work)).toMatchObject({ changed: true })
        expect(shape(work)).toMatchObject({ openEdges: 0, turnedEdges: 0, insideOut: 0, nonManifoldEdges: 0 })
        expect(shape(work).volume).toBeCloseTo(1, 6)
      }),
      { numRuns: 30 },
    )
  })

  it('covers a cut corner of six edges with a normal of its own, and nothing else changes', async () => {
    const work = boxWork(8, (_, centre) => centre[0]! > 0.375 && centre[1]! > 0.875 && centre[2]! > 0.375)
    const before = primitiveView(primitives(work)[0]!).positions.length / 3
    expect(await fill(work)).toMatchObject({ changed: true, said: '1 hole filled with 4 triangles' })
    const [primitive] = primitives(work)
    // The three outermost squares are gone: 6 points of the ring; the corner's own three vertices are no
    // longer used
    expect(primitiveView(primitive!).positions.length / 3).toBe(before - 3 + 6)
    const normals = floatsOf(primitive!.getAttribute('NORMAL')!)
    const slanted = Array.from({ length: normals.length / 3 }, (_, v) => [
      ...normals.subarray(v * 3, v * 3 + 3),
    ]).filter((n) => n.every((c) => Math.abs(c - 1 / Math.sqrt(3)) < 1e-6))
    expect(slanted).toHaveLength(6)
    expect(shape(work)).toMatchObject({ openEdges: 0, insideOut: 0 })
  })

  it('a cover that carries on a surface takes its vertices', async () => {
    const work = boxWork(6, (t) => t === 30)
    const before = primitiveView(primitives(work)[0]!)
    await fill(work)
    const after = primitiveView(primitives(work)[0]!)
    expect(after.positions).toHaveLength(before.positions.length)
    expect(after.indices.length).toBe(before.indices.length + 3)
  })

  it('closes a hole between two slots', async () => {
    const work = boxWork(6, (t) => t === 30 || t === 31, 30)
    expect(await fill(work)).toMatchObject({ changed: true })
    expect(shape(work).openEdges).toBe(0)
    expect(shape(work).volume).toBeCloseTo(1, 6)
  })

  it('leaves rings alone that were left open on purpose', async () => {
    const lid = boxWork(6, (_, centre) => centre[1]! > 0.999)
    expect(await fill(lid)).toMatchObject({ changed: false })
    expect(await fill(lid, 24)).toMatchObject({ changed: true })
    expect(shape(lid).openEdges).toBe(0)
    const sheet = boxWork(2, (_, centre) => centre[1]! < 0.999)
    expect(await fill(sheet, 64)).toMatchObject({ changed: false })
  })
})
