import { Document, type Node } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mend, treeOf, worldBounds, drawnVolume, workOf } from '../../fixtures/mendFixture'

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

describe('baking a mirror into tangents', () => {
  it('turns the tangent and its handedness, so that the bitangent stays where it was', async () => {
    const document = new Document(),
      buffer = document.createBuffer()
    const list = (type: 'VEC3' | 'VEC4', values: number[]) =>
      document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', list('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
      .setAttribute('NORMAL', list('VEC3', [0, 0, 1, 0, 0, 1, 0, 0, 1]))
      .setAttribute('TANGENT', list('VEC4', [1, 0, 0, 1, 1, 0, 0, 1, 0, 1, 0, -1]))
    document
      .createScene()
      .addChild(
        document
          .createNode('sheet')
          .setMesh(document.createMesh().addPrimitive(primitive))
          .setScale([-2, 2, 2]),
      )
    expect((await mend(workOf(document), 'scale/bake-transform')).changed).toBe(true)
    const baked = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!
    // Mirrored along x: (1, 0, 0) becomes (−1, 0, 0), (0, 1, 0) stays; n × t changes its sign, so w does too.
    // The triangle is turned, and its vertices come in its order: the first, the third, the second.
    expect([...baked.getAttribute('TANGENT')!.getArray()!].map((v) => v + 0)).toEqual([
      -1, 0, 0, -1, 0, 1, 0, 1, -1, 0, 0, -1,
    ])
    expect([...baked.getAttribute('NORMAL')!.getArray()!].map((v) => v + 0)).toEqual([
      0, 0, 1, 0, 0, 1, 0, 0, 1,
    ])
  })
})
