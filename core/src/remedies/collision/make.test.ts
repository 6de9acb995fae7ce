import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { mend, workOf } from '../../fixtures/mendFixture'

/** A scene of one mesh; `pieces` are boxes by their least and greatest corner. */
function boxes(pieces: readonly (readonly [number[], number[]])[], turn = 0) {
  const document = new Document(),
    buffer = document.createBuffer(),
    scene = document.createScene()
  const positions: number[] = [],
    indices: number[] = []
  for (const [low, high] of pieces) {
    const first = positions.length / 3
    for (let n = 0; n < 8; n++) {
      const [x, y, z] = [0, 1, 2].map((i) => ((n >> i) & 1 ? high[i]! : low[i]!)) as [number, number, number]
      positions.push(x * Math.cos(turn) - z * Math.sin(turn), y, x * Math.sin(turn) + z * Math.cos(turn))
    }
    for (const [a, b, c, d] of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ] as const)
      indices.push(first + a, first + b, first + c, first + a, first + c, first + d)
  }
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      document.createAccessor().setType('VEC3').setArray(Float32Array.from(positions)).setBuffer(buffer),
    )
    .setIndices(document.createAccessor().setArray(Uint32Array.from(indices)).setBuffer(buffer))
  scene.addChild(document.createNode('thing').setMesh(document.createMesh().addPrimitive(primitive)))
  return Object.assign(workOf(document), { name: 'thing', kind: 'mesh', textures: [], missing: [] })
}
const best = async (work: ReturnType<typeof boxes>, options = {}) =>
  (await mend(work, 'collision/make', { kind: 'best', ...options })).said

describe('the best collision', () => {
  const beam = [
    [
      [-2, 0, -0.2],
      [2, 0.4, 0.2],
    ],
  ] as const
  it('is a box where that holds no air', async () => {
    expect(await best(boxes(beam as never))).toMatch(/^one shape of up to 8 corners: box of box \d+ % air$/)
  })
  it('is a turned box where the thing is turned', async () => {
    expect(await best(boxes(beam as never, 0.6))).toMatch(
      /8 corners: turned box of box \d\d % air, turned box \d+ % air$/,
    )
  })
  it('is several hulls where nothing else is close: an L of two beams', async () => {
    const corner = [
      [
        [0, 0, 0],
        [3, 0.3, 0.3],
      ],
      [
        [0, 0, 0],
        [0.3, 0.3, 3],
      ],
    ] as const
    const said = await best(boxes(corner as never))
    expect(said).toMatch(
      /: several hulls of box \d\d % air, turned box .*cylinder .*hull .*several hulls \d+ % air$/,
    )
    // What may be air decides
    expect(await best(boxes(corner as never), { air: 0.95 })).toMatch(/: box of box/)
  })
})
