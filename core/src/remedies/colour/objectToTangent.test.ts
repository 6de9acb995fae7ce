import { Document, type Node } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { mend, workOf } from '../../fixtures/mendFixture'
import { fixturePorts, pixelsOf, pngOf } from '../../fixtures/pngFixture'
import { readTextureHeader } from '../../read/readTextureHeader'
import type { Work } from '../work'

const SIDE = 64
type Vector = [number, number, number]
const unit = (v: Vector): Vector => {
  const l = Math.hypot(...v)
  return [v[0] / l, v[1] / l, v[2] / l]
}
const channel = (v: number): number => Math.round((v + 1) * 127.5)

/** Angles of the patch at a place of the sheet: 120° around Y, 100° up. */
const anglesAt = (u: number, v: number): [number, number] => [
  (u - 0.5) * (Math.PI / 1.5),
  (0.5 - v) * (Math.PI / 1.8),
]
/** Tangent, bitangent and normal of the ball there; v goes down, the bitangent up. */
function axesAt(u: number, v: number): [Vector, Vector, Vector] {
  const [a, b] = anglesAt(u, v)
  return [
    [Math.cos(a), 0, -Math.sin(a)],
    [-Math.sin(a) * Math.sin(b), Math.cos(b), -Math.cos(a) * Math.sin(b)],
    [Math.sin(a) * Math.cos(b), Math.sin(b), Math.cos(a) * Math.cos(b)],
  ]
}

/** A patch of a ball, laid out over the whole sheet. */
function patch(): Document {
  const document = new Document(),
    steps = 48
  const buffer = document.createBuffer(),
    positions: number[] = [],
    uvs: number[] = [],
    indices: number[] = []
  for (let j = 0; j <= steps; j++)
    for (let i = 0; i <= steps; i++) {
      positions.push(...axesAt(i / steps, j / steps)[2])
      uvs.push(i / steps, j / steps)
    }
  const at = (i: number, j: number): number => j * (steps + 1) + i
  for (let j = 0; j < steps; j++)
    for (let i = 0; i < steps; i++)
      indices.push(at(i, j), at(i, j + 1), at(i + 1, j), at(i + 1, j), at(i, j + 1), at(i + 1, j + 1))
  const floats = (values: number[], type: 'VEC2' | 'VEC3') =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
  const picture = document.createTexture('ball_normal').setURI('ball_normal.png')
  const slot = document.createMaterial('ball').setNormalTexture(picture)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', floats(positions, 'VEC3'))
    .setAttribute('NORMAL', floats(positions, 'VEC3'))
    .setAttribute('TEXCOORD_0', floats(uvs, 'VEC2'))
    .setIndices(document.createAccessor().setArray(new Uint32Array(indices)).setBuffer(buffer))
    .setMaterial(slot)
  const node: Node = document.createNode('ball').setMesh(document.createMesh('ball').addPrimitive(primitive))
  document.createScene().addChild(node)
  return document
}

/** A relief on the ball: what its vectors are in tangent space, green up. */
const relief = (x: number, y: number): Vector => unit([0.4 * Math.sin(x / 5), 0.3 * Math.cos(y / 7), 1])

/** The same in object space, the axes laid into the channels by `lay`. */
const baked = (lay: (v: Vector) => Vector) =>
  pngOf(
    pixelsOf(SIDE, SIDE, 3, (x, y) => {
      const [t, b, n] = axesAt((x + 0.5) / SIDE, (y + 0.5) / SIDE)
      const r = relief(x, y)
      const own = [0, 1, 2].map((i) => r[0] * t[i]! + r[1] * b[i]! + r[2] * n[i]!) as Vector
      return lay(own).map(channel)
    }),
  )

function workWith(bytes: Uint8Array): Work {
  const document = patch()
  return {
    ...workOf(document),
    missing: [],
    textures: [
      {
        name: 'ball_normal.png',
        aliases: [],
        path: 'ball_normal.png',
        bytes,
        pictures: document.getRoot().listTextures(),
      },
    ],
  }
}

async function texelsOf(work: Work): Promise<(x: number, y: number) => Vector> {
  const { bytes, name } = work.textures[0]!
  const header = readTextureHeader(bytes, name)
  if (!header.ok) throw new Error(header.fault.why)
  const read = await fixturePorts.decode(bytes, header.value)
  if (!read.ok) throw new Error(read.fault.why)
  return (x, y) => {
    const k = (y * SIDE + x) * read.value.channels
    return [0, 1, 2].map((c) => read.value.data[k + c]! / 127.5 - 1) as Vector
  }
}

const STEP = { texture: 'ball_normal.png' }

describe('a normal map in object space', () => {
  it.each([
    ['as the mesh has its axes', ([x, y, z]: Vector): Vector => [x, y, z], 'X Y Z'],
    ['with Z up, as other programs bake it', ([x, y, z]: Vector): Vector => [x, -z, y], 'X −Z Y'],
    ['with red and green turned', ([x, y, z]: Vector): Vector => [-x, -y, z], '−X −Y Z'],
  ] as const)('%s becomes the map that it was made of', async (_, lay, axes) => {
    const work = workWith(baked(lay))
    const { said } = await mend(work, 'colour/object-to-tangent', STEP)
    const at = await texelsOf(work)
    let worst = 0
    for (let y = 1; y < SIDE - 1; y++)
      for (let x = 1; x < SIDE - 1; x++) {
        const now = at(x, y),
          wanted = relief(x, y)
        worst = Math.max(worst, Math.hypot(...now.map((v, i) => v - wanted[i]!)))
      }
    // Two roundings to eight bits, and the ball is made of flat pieces
    expect(worst).toBeLessThan(0.03)
    expect(said).toContain(axes)
  })
  it('is done once: what is in tangent space stays as it is', async () => {
    const work = workWith(baked((v) => v))
    await mend(work, 'colour/object-to-tangent', STEP)
    const { bytes } = work.textures[0]!
    const again = await mend(work, 'colour/object-to-tangent', STEP)
    expect(again).toMatchObject({ changed: false, said: 'ball_normal.png is in tangent space already' })
    expect(work.textures[0]!.bytes).toBe(bytes)
  })
  it('points green down where that is wanted', async () => {
    const work = workWith(baked((v) => v))
    await mend(work, 'colour/object-to-tangent', { ...STEP, green: 'down' })
    const at = await texelsOf(work)
    expect(at(20, 30)[1]).toBeCloseTo(-relief(20, 30)[1], 1)
  })
  it('of another mesh is refused, and nothing is changed', async () => {
    const noise = pngOf(pixelsOf(SIDE, SIDE, 3, (x, y) => [(x * 97) % 256, (y * 57) % 256, (x * y) % 256]))
    const work = workWith(noise)
    await expect(mend(work, 'colour/object-to-tangent', STEP)).rejects.toThrow('agree with the mesh')
    expect(work.textures[0]!.bytes).toBe(noise)
  })
  it('needs a mesh that wears it', async () => {
    const work = workWith(baked((v) => v))
    for (const slot of work.document!.getRoot().listMaterials()) slot.setNormalTexture(null)
    await expect(mend(work, 'colour/object-to-tangent', STEP)).rejects.toThrow('No mesh')
  })
})
