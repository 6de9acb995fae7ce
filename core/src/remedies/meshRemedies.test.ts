import { Document, type Node } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RemedyOptions } from '@stern-gate/contract'
import { boxOf } from '../fixtures/crateFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { joinBounds } from '../geometry/pointBounds'
import { measureNodes } from '../measure/measureNodes'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'
import { floatsOf, primitiveView } from '../scene/primitiveView'
import { worldPositions } from '../scene/worldPositions'
import { openedCrate } from '../fixtures/workFixture'
import type { Work } from './work'

async function mend(
  work: Work,
  remedy: string,
  options: RemedyOptions = {},
): Promise<{ changed: boolean; said: string }> {
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy, options, on: true, why: '' }] },
    fixturePorts,
  )
  if (!done.ok) throw new Error(done.fault.why)
  return done.value[0]!
}

/** A box under turned, scaled and moved parents, with normals. */
function treeOf(scales: [number, number, number][], turn: number): Document {
  const document = new Document()
  const buffer = document.createBuffer(),
    scene = document.createScene()
  let parent: Node | null = null
  for (const [i, scale] of scales.entries()) {
    const box = boxOf(1, [0.3, 0.1 * i, 0], 2)
    const vec3 = (values: readonly number[]) =>
      document.createAccessor().setType('VEC3').setArray(new Float32Array(values)).setBuffer(buffer)
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', vec3(box.positions))
      .setAttribute('NORMAL', vec3(box.normals))
      .setIndices(document.createAccessor().setArray(new Uint32Array(box.indices)).setBuffer(buffer))
    const node: Node = document
      .createNode(`n${i}`)
      .setMesh(document.createMesh().addPrimitive(primitive))
      .setTranslation([1, i, 2])
      .setRotation([0, Math.sin(turn / 2), 0, Math.cos(turn / 2)])
      .setScale(scale)
    if (parent) parent.addChild(node)
    else scene.addChild(node)
    parent = node
  }
  return document
}

const worldBounds = async (document: Document) =>
  joinBounds((await measureNodes(document, () => undefined)).nodes.map((n) => n.bounds))!

/** Volume with its sign, in the world as it is drawn: a mirrored node is drawn with its winding turned. */
function drawnVolume(document: Document): number {
  let volume = 0
  for (const node of document.getRoot().listNodes())
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const p = worldPositions(node, primitive, floatsOf(primitive.getAttribute('POSITION')!)),
        { indices } = primitiveView(primitive)
      const m = node.getWorldMatrix()
      const determinant =
        m[0] * (m[5] * m[10] - m[6] * m[9]) -
        m[4] * (m[1] * m[10] - m[2] * m[9]) +
        m[8] * (m[1] * m[6] - m[2] * m[5])
      let own = 0
      for (let k = 0; k + 2 < indices.length; k += 3) {
        const [a, b, c] = [0, 1, 2].map((o) => [
          ...p.subarray(indices[k + o]! * 3, indices[k + o]! * 3 + 3),
        ]) as [number[], number[], number[]]
        own +=
          (a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
            a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
            a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!)) /
          6
      }
      volume += own * Math.sign(determinant)
    }
  return volume
}

const workOf = (document: Document): Work => ({ document }) as Work

describe('baking a transform', () => {
  const factor = fc.double({ min: 0.2, max: 4, noNaN: true }),
    sign = fc.constantFrom(1, -1)
  it('keeps the world and the side that is drawn, mirrored or not, and leaves no scale', async () => {
    await fc.assert(
      fc.asyncProperty(
        factor,
        factor,
        sign,
        sign,
        fc.double({ min: -3, max: 3, noNaN: true }),
        async (a, b, s, t, turn) => {
          const document = treeOf(
            [
              [a * s, a * s, a * s],
              [b * t, b, b],
            ],
            turn,
          )
          const before = await worldBounds(document),
            volume = drawnVolume(document)
          await mend(workOf(document), 'scale/bake-transform')
          const after = await worldBounds(document)
          for (let i = 0; i < 3; i++) {
            expect(after.min[i]!).toBeCloseTo(before.min[i]!, 3)
            expect(after.max[i]!).toBeCloseTo(before.max[i]!, 3)
          }
          expect(drawnVolume(document) / volume).toBeCloseTo(1, 5)
          for (const node of document.getRoot().listNodes())
            expect(node.getScale().map((v) => Number(v.toFixed(4)))).toEqual([1, 1, 1])
        },
      ),
      { numRuns: 40 },
    )
  })
  it('done twice does nothing the second time', async () => {
    const work = workOf(treeOf([[2, 2, 2]], 0.4))
    expect((await mend(work, 'scale/bake-transform')).changed).toBe(true)
    expect((await mend(work, 'scale/bake-transform')).changed).toBe(false)
  })
})

describe('baking through nodes that draw nothing', () => {
  const factor = fc.double({ min: 0.2, max: 3, noNaN: true }),
    sign = fc.constantFrom(1, -1)
  const placeOf = (node: Node): number[] => [...node.getWorldMatrix()].map((v) => Number(v.toFixed(3)))
  /** The first node draws nothing, the last two do; a socket hangs on the second. */
  function groupOf(scales: [number, number, number][], turn: number): { document: Document; socket: Node } {
    const document = treeOf(scales, turn),
      nodes = document.getRoot().listNodes(),
      socket = document.createNode('socket').setTranslation([0, 0.5, 0]).setRotation([0, 0.6, 0, 0.8])
    nodes[0]!.setMesh(null)
    nodes[1]!.addChild(socket)
    return { document, socket }
  }
  it('one by one in any order the world stays, and in the end nothing drawn has a scale or a turn', async () => {
    await fc.assert(
      fc.asyncProperty(
        factor,
        factor,
        sign,
        sign,
        fc.boolean(),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.shuffledSubarray(['n0', 'n0/n1', 'n0/n1/n2'], { minLength: 3 }),
        async (a, b, s, t, stretched, turn, order) => {
          const { document, socket } = groupOf(
            [
              [a * s, stretched ? b : a * s, a * s],
              [b * t, b * t, b * t],
              [a, a, a],
            ],
            turn,
          )
          const before = await worldBounds(document),
            volume = drawnVolume(document),
            place = placeOf(socket)
          // A stretched turn over a turn is a shear, which a socket that is no point alone cannot hold: only
          // its place is asked for then
          const kept = stretched ? [12, 13, 14] : place.map((_, k) => k)
          for (const node of order) await mend(workOf(document), 'scale/bake-transform', { node })
          const after = await worldBounds(document)
          for (let i = 0; i < 3; i++) {
            expect(after.min[i]!).toBeCloseTo(before.min[i]!, 3)
            expect(after.max[i]!).toBeCloseTo(before.max[i]!, 3)
          }
          expect(drawnVolume(document) / volume).toBeCloseTo(1, 5)
          for (const k of kept) expect(placeOf(socket)[k]!).toBeCloseTo(place[k]!, 2)
          for (const node of document.getRoot().listNodes())
            if (node !== socket)
              expect(
                [...node.getScale(), ...node.getRotation()].map((v) => Number(v.toFixed(4)) + 0),
              ).toEqual([1, 1, 1, 0, 0, 0, 1])
        },
      ),
      { numRuns: 60 },
    )
  })
  it('of one that is mirrored makes nothing mirrored that was not, and keeps the turns below', async () => {
    await fc.assert(
      fc.asyncProperty(
        factor,
        factor,
        sign,
        fc.constantFrom([-1, 1, 1], [1, -1, 1], [-1, -1, -1]),
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        async (a, b, t, [x, y, z], turn) => {
          const { document, socket } = groupOf(
              [
                [a * x!, a * y!, a * z!],
                [b * t, b, b],
                [1, 1, 1],
              ],
              turn,
            ),
            nodes = document.getRoot().listNodes()
          const before = await worldBounds(document),
            volume = drawnVolume(document),
            mirrored = nodes.map((n) => Math.sign(n.getScale().reduce((p, v) => p * v)))
          const place = placeOf(socket).slice(12)
          await mend(workOf(document), 'scale/bake-transform', { node: 'n0' })
          const after = await worldBounds(document)
          for (let i = 0; i < 3; i++)
            expect([after.min[i], after.max[i]]).toEqual([
              expect.closeTo(before.min[i]!, 3),
              expect.closeTo(before.max[i]!, 3),
            ])
          expect(drawnVolume(document) / volume).toBeCloseTo(1, 5)
          placeOf(socket)
            .slice(12)
            .forEach((v, i) => expect(v).toBeCloseTo(place[i]!, 2))
          // The socket draws nothing: it keeps the mirrored frame that it had
          for (const [i, node] of nodes.entries())
            if (node !== socket && (i === 0 || mirrored[i]! > 0))
              expect(node.getScale().reduce((p, v) => p * v)).toBeGreaterThan(0)
          // A turned node that is not mirrored keeps a turn of the same size
          if (t > 0) expect(Math.abs(nodes[2]!.getRotation()[3])).toBeCloseTo(Math.abs(Math.cos(turn / 2)), 4)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('everywhere is asked of mirrored or of scaled nodes alone, too', async () => {
    const scalesAfter = async (which: string, first: [number, number, number]) => {
      const { document } = groupOf([first, [2, 2, 2], [1, 1, 1]], 0.4)
      await mend(workOf(document), 'scale/bake-transform', { which })
      return document
        .getRoot()
        .listNodes()
        .slice(0, 3)
        .map((n) => [...n.getScale(), Math.abs(n.getRotation()[3])].map((v) => Number(v.toFixed(2))))
    }
    expect(await scalesAfter('mirrored', [-1, 1, 1])).toEqual([
      [1, 1, 1, 1],
      [2, 2, 2, 1],
      [1, 1, 1, 0.98],
    ])
    expect(await scalesAfter('scaled', [1, 1, 1])).toEqual([
      [1, 1, 1, 0.98],
      [1, 1, 1, 1],
      [1, 1, 1, 1],
    ])
    expect(await scalesAfter('scaled or turned', [1, 1, 1])).toEqual([
      [1, 1, 1, 1],
      [1, 1, 1, 1],
      [1, 1, 1, 1],
    ])
  })
  it('nodes that share a mesh go on sharing one where they had the same transform, and no other mesh is left', async () => {
    const document = treeOf([[2, 2, 2]], 0),
      [first] = document.getRoot().listNodes(),
      mesh = first!.getMesh()!
    const scales = [2, 2, 0.5, 1, 2.00001]
    const others = scales.map((s, i) =>
      document
        .createNode(`o${i}`)
        .setMesh(mesh)
        .setScale([s, s, s])
        .setTranslation([i * 5, 0, 0]),
    )
    others.forEach((node) => document.getRoot().listScenes()[0]!.addChild(node))
    const before = await worldBounds(document),
      volume = drawnVolume(document)
    expect(await mend(workOf(document), 'scale/bake-transform')).toEqual(
      expect.objectContaining({ changed: true, said: '5 nodes baked' }),
    )
    const after = [first!, ...others].map((n) => n.getMesh()!)
    expect(after.map((m) => after.indexOf(m))).toEqual([0, 0, 0, 3, 4, 5])
    expect(document.getRoot().listMeshes()).toHaveLength(4)
    expect(after[4]).toBe(mesh)
    expect([await worldBounds(document), drawnVolume(document)]).toEqual([
      { min: before.min.map((v) => expect.closeTo(v, 4)), max: before.max.map((v) => expect.closeTo(v, 4)) },
      expect.closeTo(volume, 2),
    ])
  })
  it('what a clip moves takes nothing over, and so the node above keeps what it has', async () => {
    const { document } = groupOf(
        [
          [2, 2, 2],
          [1, 1, 1],
          [1, 1, 1],
        ],
        0.3,
      ),
      [group, moved] = document.getRoot().listNodes()
    const times = document.createAccessor().setArray(new Float32Array([0, 1])),
      values = document.createAccessor().setType('VEC3').setArray(new Float32Array(6))
    const sampler = document.createAnimationSampler().setInput(times).setOutput(values)
    document
      .createAnimation('rise')
      .addSampler(sampler)
      .addChannel(
        document
          .createAnimationChannel()
          .setSampler(sampler)
          .setTargetNode(moved!)
          .setTargetPath('translation'),
      )
    expect(await mend(workOf(document), 'scale/bake-transform', { node: 'n0' })).toMatchObject({
      changed: false,
    })
    expect(group!.getScale()).toEqual([2, 2, 2])
  })
})

describe('turning axes', () => {
  it('from Z up puts the length along Z onto Y', async () => {
    const document = treeOf([[1, 1, 3]], 0)
    await mend(workOf(document), 'scale/turn-axes', { up: '+Z' })
    const { min, max } = await worldBounds(document)
    expect([max[0] - min[0], max[1] - min[1], max[2] - min[2]].map((v) => Number(v.toFixed(3)))).toEqual([
      1, 3, 1,
    ])
  })
  it('to the front: what pointed along −X points along +Z, and up stays up', async () => {
    const document = treeOf([[3, 2, 1]], 0)
    await mend(workOf(document), 'scale/turn-axes', { front: '-X' })
    const { min, max } = await worldBounds(document)
    expect([max[0] - min[0], max[1] - min[1], max[2] - min[2]].map((v) => Number(v.toFixed(3)))).toEqual([
      1, 2, 3,
    ])
    expect((await mend(workOf(document), 'scale/turn-axes', {})).changed).toBe(false)
  })
  it.each([
    ['+X', [1, 0, 0]],
    ['-X', [-1, 0, 0]],
    ['-Z', [0, 0, -1]],
  ] as const)('%s comes to the front', async (front, at) => {
    const document = treeOf([[1, 1, 1]], 0)
    document
      .getRoot()
      .listNodes()[0]!
      .setTranslation([at[0] * 5, 0, at[2] * 5])
    await mend(workOf(document), 'scale/turn-axes', { front, base: false })
    const { min, max } = await worldBounds(document)
    expect((min[2] + max[2]) / 2).toBeGreaterThan(4)
  })
})

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
    await mend(work, 'uvs/swap', { a: 0, b: 1 })
    expect(uvs(work)).toEqual(before.map(([a, b]) => [b, a]))
    await mend(work, 'uvs/swap', { a: 0, b: 1 })
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
    await mend(work, 'files/intake', { clips: false, colours: false, lightmap: 'none' })
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
