import { Document, type Mesh } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { optionsOfOffer } from '@stern-gate/contract'
import { boxOf } from '../fixtures/crateShape'
import { subjectsOf } from '../fixtures/measureFixture'
import { writeGlb } from '../write/writeGlb'
import { judge } from './judge'

/** Coins: nodes with one mesh or copies of it, without UVs, each at its own place and turn. */
async function coins(count: number, shared: boolean, order: (k: number) => number = (k) => k) {
  const document = new Document(),
    buffer = document.createBuffer(),
    scene = document.createScene()
  const meshOf = (name: string, size: number): Mesh => {
    const box = boxOf(size, [0, 0, 0], 1)
    const attribute = (values: ArrayLike<number>, type: 'VEC3') =>
      document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer)
    const indices = document
      .createAccessor()
      .setType('SCALAR')
      .setArray(Uint32Array.from(box.indices))
      .setBuffer(buffer)
    return document
      .createMesh(name)
      .addPrimitive(
        document
          .createPrimitive()
          .setAttribute('POSITION', attribute(box.positions, 'VEC3'))
          .setAttribute('NORMAL', attribute(box.normals, 'VEC3'))
          .setIndices(indices),
      )
  }
  const one = meshOf('coin', 0.1)
  for (let k = 0; k < count; k++)
    scene.addChild(
      document
        .createNode(`coin_${String(order(k)).padStart(2, '0')}`)
        .setMesh(shared ? one : meshOf(`coin${k}`, 0.1))
        .setTranslation([order(k), 0, 0]),
    )
  scene.addChild(document.createNode('chest').setMesh(meshOf('chest', 1)))
  const glb = await writeGlb(document, () => ({ embed: new Uint8Array(0) }))
  const [subject] = await subjectsOf({ 'props/harbour_hoard_a.glb': glb })
  return judge(subject!).findings
}

describe('equal things speak once', () => {
  it.each([
    ['instances of one mesh', true],
    ['copies of it', false],
  ])('%s: eleven coins give one finding of a rule, the chest its own', async (_, shared) => {
    const findings = await coins(11, shared)
    const uvs = findings.filter((f) => f.rule === 'uvs/missing')
    expect(uvs.map((f) => f.place)).toEqual([
      { kind: 'channel', node: 'coin_00', channel: 0 },
      { kind: 'channel', node: 'chest', channel: 0 },
    ])
    expect(uvs.map((f) => f.also.length)).toEqual([10, 0])
    expect(uvs[0]!.text).toMatch(/The same holds of 10 more nodes with the same mesh\.$/)
    expect(new Set(findings.map((f) => f.fingerprint)).size).toBe(findings.length)
  })
  it('in whatever order they stand in the file', async () => {
    const forward = await coins(5, false),
      backward = await coins(5, false, (k) => 4 - k)
    expect(backward).toEqual(forward)
  })
  it('an offer stands for a step at each place', async () => {
    const [offer] = (await coins(3, false)).filter((f) => f.also.length > 0).flatMap((f) => f.remedies)
    if (!offer) return
    expect(new Set(optionsOfOffer(offer).map((o) => o['node'])).size).toBe(3)
  })
})
