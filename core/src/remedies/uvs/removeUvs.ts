import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { inputTextures } from '../../scene/slotInputs'
import { channelOf, placeTexture } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import type { Work } from '../work'
import { nodeOption } from '../nodeOption'
import { changeChannels, uvChannel } from './changeChannels'

export const removeUvs = defineRemedy({
  id: 'uvs/remove',
  version: 2,
  station: 'uvs',
  needs: 'mesh',
  title: 'Remove a UV channel',
  words: ({ channel }) => `Remove UV${channel}`,
  about: 'Takes a UV channel out; channels above it move down, and slots that read one of those follow.',
  options: z.strictObject({
    node: nodeOption,
    channel: uvChannel.describe('channel that goes, counted from 0'),
  }),
  async apply(work, { node, channel: gone }) {
    const { changed, ...done } = changeChannels(work, node, (p) => remove(p, gone), {
      said: (parts) => `UV${gone} of ${parts} removed`,
      none: `no part has UV${gone}`,
    })
    if (changed.size > 0) followDown(work, gone, changed)
    return done
  },
})

function remove(primitive: Primitive, gone: number): boolean {
  if (!primitive.getAttribute(`TEXCOORD_${gone}`)) return false
  for (let n = gone; n < 8; n++)
    primitive.setAttribute(`TEXCOORD_${n}`, primitive.getAttribute(`TEXCOORD_${n + 1}`))
  return true
}

/** Slots that only changed parts use read one number lower where they read above the one that went. */
function followDown(work: Work, gone: number, changed: ReadonlySet<Primitive>): void {
  const root = work.document!.getRoot()
  const others = new Set(
    root
      .listMeshes()
      .flatMap((m) => m.listPrimitives())
      .filter((p) => !changed.has(p))
      .map((p) => p.getMaterial()),
  )
  for (const slot of root.listMaterials()) {
    if (others.has(slot)) continue
    for (const { info } of inputTextures(slot))
      if (channelOf(info) > gone) placeTexture(work.document!, info, { channel: channelOf(info) - 1 })
  }
}
