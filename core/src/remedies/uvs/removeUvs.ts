import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { inputTextures } from '../../scene/slotInputs'
import { channelOf, placeTexture } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { meshesAt } from '../meshWork'
import type { Work } from '../work'

const channel = z.int().min(0).max(7)

export const removeUvs = defineRemedy({
  id: 'uvs/remove',
  version: 2,
  station: 'uvs',
  needs: 'mesh',
  title: 'Remove a UV channel',
  words: ({ channel }) => `Remove UV${channel}`,
  about: 'Takes a UV channel out; channels above it move down, and slots that read one of those follow.',
  options: z.strictObject({
    node: z
      .string()
      .nullable()
      .default(null)
      .describe('path of one node; null: everywhere')
      .meta({ names: 'node' }),
    channel: channel.describe('channel that goes, counted from 0'),
  }),
  async apply(work, { node, channel: gone }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no UVs' })
    const primitives = [...new Set(meshesAt(work, node).flatMap(({ mesh }) => mesh.listPrimitives()))]
    const changed = primitives.filter((p) => p.getAttribute(`TEXCOORD_${gone}`))
    for (const primitive of changed) remove(primitive, gone)
    if (changed.length > 0) followDown(work, gone, new Set(changed))
    return good({
      changed: changed.length > 0,
      said:
        changed.length > 0
          ? `UV${gone} of ${changed.length} ${changed.length === 1 ? 'part' : 'parts'} removed`
          : `no part has UV${gone}`,
    })
  },
})

function remove(primitive: Primitive, gone: number): void {
  for (let n = gone; n < 8; n++)
    primitive.setAttribute(`TEXCOORD_${n}`, primitive.getAttribute(`TEXCOORD_${n + 1}`))
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
