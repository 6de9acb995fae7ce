import type { Document, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { assetNotes, noteOfAsset } from '../../scene/assetNotes'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { changeChannels, moveReadChannels, uvChannel } from './changeChannels'

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
    if (changed.size > 0) {
      forget(work.document!, gone)
      moveReadChannels(work, changed, (read) => (read > gone ? read - 1 : read))
    }
    return done
  },
})

/** What was noted of a channel goes with it. */
function forget(document: Document, gone: number): void {
  const { channels } = assetNotes(document)
  const rest = channels.filter((c) => c.channel !== gone)
  if (rest.length < channels.length) noteOfAsset(document, { channels: rest })
}

function remove(primitive: Primitive, gone: number): boolean {
  if (!primitive.getAttribute(`TEXCOORD_${gone}`)) return false
  for (let n = gone; n < 8; n++)
    primitive.setAttribute(`TEXCOORD_${n}`, primitive.getAttribute(`TEXCOORD_${n + 1}`))
  return true
}
