import { WebIO } from '@gltf-transform/core'
import { KHRDracoMeshCompression } from '@gltf-transform/extensions'
import draco3d from 'draco3dgltf'
import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { readGltfContainer } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { measureFile } from './measureFile'
import { mendAsset } from './mendAsset'

const measure = (path: string, bytes: Uint8Array) =>
  measureFile(path, bytes, { find: () => null, progress: () => undefined, thumbnail: false })
const io = async () =>
  new WebIO().registerExtensions([KHRDracoMeshCompression]).registerDependencies({
    'draco3d.encoder': await draco3d.createEncoderModule({}),
    'draco3d.decoder': await draco3d.createDecoderModule({}),
  })

/** The clean crate with its geometry packed. */
async function packedCrate(): Promise<{ plain: Uint8Array; packed: Uint8Array }> {
  const plain = (await crateFiles({ embed: true }))['props/harbour_crate_a.glb']!
  const tool = await io(),
    document = await tool.readBinary(plain)
  document
    .createExtension(KHRDracoMeshCompression)
    .setRequired(true)
    .setEncoderOptions({
      method: KHRDracoMeshCompression.EncoderMethod.EDGEBREAKER,
      quantizationBits: { POSITION: 16 },
    })
  return { plain, packed: await tool.writeBinary(document) }
}
const countsOf = (facts: MeshFacts) =>
  facts.nodes!.map((n) => [
    n.path,
    n.primitives.map((p) => [p.triangles, p.slot, p.attributes.slice().sort()]),
  ])

describe('a mesh packed by Draco', () => {
  it('has the triangles, slots and attributes of the plain one, and its size', async () => {
    const { plain, packed } = await packedCrate()
    expect(readGltfContainer(packed)).toMatchObject({
      ok: true,
      value: { json: { extensionsRequired: ['KHR_draco_mesh_compression'] } },
    })
    const [a, b] = (await Promise.all([measure('a.glb', plain), measure('b.glb', packed)])).map(
      (m) => m.measured.facts as MeshFacts,
    )
    expect(countsOf(b!)).toEqual(countsOf(a!))
    expect(b!.file.extensionsLost).toEqual([])
    b!.nodes![0]!.bounds!.max.forEach((v, k) => expect(v).toBeCloseTo(a!.nodes![0]!.bounds!.max[k]!, 3))
  })
  it('is written plain by a recipe', async () => {
    const { packed } = await packedCrate()
    const done = await mendAsset(
      {
        name: 'harbour_crate_a',
        kind: 'mesh',
        main: 'a.glb',
        files: [{ path: 'a.glb', part: 'mesh', bytes: packed }],
      },
      { steps: [{ id: 'a', remedy: 'scale/rescale', options: { factor: 2 }, on: true, why: '' }] },
      {},
      () => undefined,
    )
    const glb = done.ok ? done.value.files.find((f) => f.path.endsWith('.glb'))!.bytes : new Uint8Array(0)
    expect(readGltfContainer(glb)).toMatchObject({ ok: true, value: { json: { extensionsRequired: [] } } })
  })
  it('that is damaged is refused by code', async () => {
    const { packed } = await packedCrate(),
      bytes = packed.slice()
    bytes.fill(255, bytes.length - 4000)
    const { measured } = await measure('a.glb', bytes)
    expect(measured.fault !== null || (measured.facts as MeshFacts | null) !== null).toBe(true)
  })
})
