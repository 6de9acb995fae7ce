import type { Document, TextureInfo } from '@gltf-transform/core'
import { KHRTextureTransform } from '@gltf-transform/extensions'
import { expect, it } from 'vitest'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { floatsOf } from '../../scene/primitiveView'
import { channelOf, lieOf } from '../../scene/texturePlacement'
import { mappedChannels } from './layOutUvs'

// A transform may name another UV channel than its input does, and then that one is read
const readThrough = (document: Document, info: TextureInfo, channel: number): void => {
  const transform = document.createExtension(KHRTextureTransform).createTransform()
  info.setTexCoord(0).setExtension('KHR_texture_transform', transform.setTexCoord(channel).setScale([2, 3]))
}
async function crate() {
  const { document, ...work } = await openedCrate({ hull: false, uvChannels: 2 }),
    [slot] = document!.getRoot().listMaterials(),
    [primitive] = document!.getRoot().listMeshes()[0]!.listPrimitives()
  return { work: { ...work, document: document! }, document: document!, slot: slot!, primitive: primitive! }
}

it('a channel that is removed moves what a transform reads, too, and leaves how it lies', async () => {
  const { work, document, slot, primitive } = await crate()
  readThrough(document, slot.getBaseColorTextureInfo()!, 1)
  expect(mappedChannels(primitive)).toEqual(new Set([0, 1]))
  expect((await mend(work, 'uvs/remove', { node: null, channel: 0 })).changed).toBe(true)
  expect(lieOf(slot.getBaseColorTextureInfo()!)).toEqual({
    ...{ channel: 0, tiling: [2, 3], offset: [0, 0], turn: 0 },
  })
  expect(channelOf(slot.getNormalTextureInfo()!)).toBe(0)
})

it('tangents follow the channel that the normal map is read by', async () => {
  // A quarter turn of the sheet turns the tangents with it
  const turned = (of: Float32Array): Float32Array =>
    of.map((_, k) => (k % 2 === 0 ? of[k + 1]! : 1 - of[k - 1]!))
  const tangents = async (channel: 0 | 1): Promise<Float32Array> => {
    const { work, document, slot, primitive } = await crate()
    const own = primitive.getAttribute('TEXCOORD_0')!,
      turnedUvs = own.clone().setArray(turned(floatsOf(own)))
    if (channel === 1) readThrough(document, slot.getNormalTextureInfo()!, 1)
    primitive.setAttribute(`TEXCOORD_${channel}`, turnedUvs)
    await mend(work, 'mesh/generate-tangents')
    return floatsOf(primitive.getAttribute('TANGENT')!)
  }
  const [through, straight] = [await tangents(1), await tangents(0)]
  expect(through.length).toBeGreaterThan(0)
  expect([...through.subarray(0, 4)]).toEqual([...straight.subarray(0, 4)])
})

it('exchanged channels that slots follow look as before, also where a part has one channel alone', async () => {
  const { work, slot, primitive } = await crate()
  primitive.setAttribute('TEXCOORD_1', null)
  const uv = primitive.getAttribute('TEXCOORD_0')
  await mend(work, 'uvs/exchange', { a: 1, b: 0, follow: true })
  expect(channelOf(slot.getBaseColorTextureInfo()!)).toBe(1)
  // glTF has no second channel without a first
  expect([primitive.getAttribute('TEXCOORD_0'), primitive.getAttribute('TEXCOORD_1')]).toEqual([uv, uv])
})

it('exchanged channels that slots do not follow leave a number free', async () => {
  const { work, slot, primitive } = await crate()
  primitive.setAttribute('TEXCOORD_1', null)
  await mend(work, 'uvs/exchange', { a: 0, b: 1 })
  expect(channelOf(slot.getBaseColorTextureInfo()!)).toBe(0)
  expect(primitive.getAttribute('TEXCOORD_0')).toBeNull()
})
