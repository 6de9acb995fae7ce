import { describe, expect, it } from 'vitest'
import { crateFiles } from '../fixtures/crateFixture'
import { measureMesh } from '../measure/measureMesh'
import { readGltfContainer } from './readGltfContainer'
import { readMesh, type AccessorBytes } from './readMesh'

/** One view of 48 bytes that is looked at in several ways. */
function gltf(accessors: object[], view: object = {}): Uint8Array {
  const bytes = Uint8Array.from({ length: 48 }, (_, k) => k * 5)
  const uri = `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`
  return new TextEncoder().encode(
    JSON.stringify({
      asset: { version: '2.0' },
      buffers: [{ byteLength: 48, uri }],
      bufferViews: [{ buffer: 0, byteLength: 48, ...view }],
      accessors,
    }),
  )
}

async function arraysOf(file: Uint8Array, bytes: AccessorBytes) {
  const container = readGltfContainer(file)
  if (!container.ok) throw new Error(container.fault.why)
  const source = await readMesh(container.value, [], () => null, undefined, bytes)
  if (!source.ok) throw new Error(source.fault.why)
  return source.value.document
    .getRoot()
    .listAccessors()
    .map((a) => a.getArray()!)
}

describe('accessors that look into the file', () => {
  it('of a GLB hold what copies hold, in the file’s own bytes', async () => {
    const glb = (await crateFiles({ embed: true }))['props/harbour_crate_a.glb']!
    const shared = await arraysOf(glb, 'shared'),
      copied = await arraysOf(glb, 'copied')
    expect(shared.length).toBeGreaterThan(3)
    expect(shared).toEqual(copied)
    expect(shared.every((a) => a.buffer === glb.buffer)).toBe(true)
    expect(copied.some((a) => a.buffer === glb.buffer)).toBe(false)
  })
  it.each([
    [
      'whole numbers and floats',
      gltf([
        { bufferView: 0, componentType: 5126, count: 4, type: 'VEC3' },
        { bufferView: 0, byteOffset: 2, componentType: 5123, count: 7, type: 'VEC2' },
        { bufferView: 0, byteOffset: 3, componentType: 5120, count: 9, type: 'SCALAR' },
      ]),
    ],
    [
      'numbers at a place that a typed array cannot begin at',
      gltf([{ bufferView: 0, componentType: 5125, count: 2, type: 'SCALAR' }], {
        byteOffset: 2,
        byteLength: 46,
      }),
    ],
    [
      'interleaved ones',
      gltf([{ bufferView: 0, componentType: 5123, count: 5, type: 'SCALAR' }], { byteStride: 8 }),
    ],
    [
      'sparse ones',
      gltf([
        {
          bufferView: 0,
          componentType: 5121,
          count: 9,
          type: 'SCALAR',
          sparse: {
            count: 1,
            indices: { bufferView: 0, byteOffset: 1, componentType: 5121 },
            values: { bufferView: 0, byteOffset: 7 },
          },
        },
      ]),
    ],
  ])('%s are the same as copies', async (_name, file) =>
    expect(await arraysOf(file, 'shared')).toEqual(await arraysOf(file, 'copied')),
  )
  it('are measured and not written to', async () => {
    const glb = (await crateFiles({ embed: true, green: 'down' }))['props/harbour_crate_a.glb']!,
      before = glb.slice()
    const container = readGltfContainer(glb)
    if (container.ok)
      await measureMesh(container.value, [], glb.length, { resource: () => null, hash: () => 'x' })
    expect(glb).toEqual(before)
  })
})
