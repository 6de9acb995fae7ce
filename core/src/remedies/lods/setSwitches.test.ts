import { Document, type Node } from '@gltf-transform/core'
import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { createGltfIo } from '../../read/gltfIo'
import { writeWork } from '../../recipe/writeWork'
import { MsftLod } from '../../read/lodExtension'
import type { Work } from '../work'

async function meshOf(work: Work): Promise<Uint8Array> {
  return (await writeWork(work)).find((f) => f.part === 'mesh')!.bytes
}
const factsOf = async (bytes: Uint8Array): Promise<MeshFacts> =>
  (await measureFixture({ 'crate.glb': bytes })).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
const jsonOf = (glb: Uint8Array) =>
  JSON.parse(
    new TextDecoder().decode(
      glb.subarray(20, 20 + new DataView(glb.buffer, glb.byteOffset).getUint32(12, true)),
    ),
  ) as {
    nodes: { name: string; extensions?: Record<string, unknown>; extras?: Record<string, unknown> }[]
    extensionsUsed?: string[]
  }

describe('where levels are switched', () => {
  it('is written as the extension has it, read again, and outlives another writing', async () => {
    const work = await openedCrate({ levels: 3, grid: 8 })
    await mend(work, 'lods/set-switches', { coverages: [0.4, 0.1, 0.02] })
    const bytes = await meshOf(work),
      { nodes, extensionsUsed } = jsonOf(bytes)
    expect(extensionsUsed).toContain('MSFT_lod')
    const ids = ['harbour_crate_a_lod1', 'harbour_crate_a_lod2'].map((n) =>
      nodes.findIndex((node) => node.name === n),
    )
    expect(nodes.find((n) => n.name === 'harbour_crate_a_lod0')).toMatchObject({
      extensions: { MSFT_lod: { ids } },
      extras: { MSFT_screencoverage: [0.4, 0.1, 0.02] },
    })
    const facts = await factsOf(bytes)
    expect(facts.chain!.coverages).toEqual([0.4, 0.1, 0.02])
    expect(facts.file.extensionsLost).toEqual([])
  })
  it('is refused for another number of levels, and where a coarser one would come first', async () => {
    const work = await openedCrate({ levels: 2, grid: 4 })
    await expect(mend(work, 'lods/set-switches', { coverages: [0.4, 0.1, 0.02] })).rejects.toThrow('2 levels')
    await expect(mend(work, 'lods/set-switches', { coverages: [0.1, 0.4] })).rejects.toThrow('before a finer')
    await expect(mend(work, 'lods/set-switches', { coverages: 'far' })).rejects.toThrow('coverages')
  })
  it('is taken out again, and said to be none', async () => {
    const work = await openedCrate({ levels: 2, grid: 4, coverages: [0.3, 0.1] })
    expect((await mend(work, 'lods/set-switches', {})).changed).toBe(true)
    expect((await factsOf(await meshOf(work))).chain!.coverages).toBeNull()
    expect((await mend(work, 'lods/set-switches', {})).changed).toBe(false)
  })
})

describe('levels that a file says by number alone', () => {
  it('are levels though no scene holds them and no name says so', async () => {
    const document = new Document()
    const buffer = document.createBuffer()
    const square = (name: string): Node => {
      const at = document
        .createAccessor()
        .setType('VEC3')
        .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0]))
        .setBuffer(buffer)
      return document
        .createNode(name)
        .setMesh(
          document.createMesh(name).addPrimitive(document.createPrimitive().setAttribute('POSITION', at)),
        )
    }
    const near = square('near'),
      far = square('far')
    document.createScene().addChild(near)
    const chain = document.createExtension(MsftLod).createLodChain().addLevel(far)
    near.setExtension('MSFT_lod', chain).setExtras({ MSFT_screencoverage: [0.2, 0] })
    const facts = await factsOf(await (await createGltfIo()).writeBinary(document))
    expect(facts.nodes!.map((n) => [n.name, n.level, n.primitives.length])).toEqual([
      ['near', null, 1],
      ['far', 1, 1],
    ])
    expect(facts.chain).toMatchObject({ coverages: [0.2, 0], errors: [{ level: 1, most: 0 }] })
    expect(facts.overview!.triangles).toBe(1)
  })
})
