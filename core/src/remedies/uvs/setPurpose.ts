import * as z from 'zod'
import { channelPurposes, good } from '@stern-gate/contract'
import { assetNotes, noteOfAsset } from '../../scene/assetNotes'
import { defineRemedy } from '../defineRemedy'
import { uvChannel } from './changeChannels'

/** The word that takes back what was said of a channel. */
const AS_CLASS = 'as its class'

export const setPurpose = defineRemedy({
  id: 'uvs/set-purpose',
  version: 1,
  station: 'uvs',
  needs: 'mesh',
  title: 'Say what a UV channel is for',
  words: ({ channel, purpose }) => `UV${channel}: ${purpose}`,
  about:
    'Notes what a UV channel of this asset is for, whatever its class says: its textures, baked light, or data ' +
    'such as a ramp for a tint, which may overlap and lie anywhere. The note stands in the extras of the scene; ' +
    'the UVs stay as they are.',
  options: z.strictObject({
    channel: uvChannel.default(1).describe('counted from 0'),
    purpose: z
      .enum([...channelPurposes, AS_CLASS])
      .default('data')
      .describe('what it carries'),
  }),
  async apply(work, { channel, purpose }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no UVs' })
    const { channels } = assetNotes(work.document)
    if ((channels.find((c) => c.channel === channel)?.purpose ?? AS_CLASS) === purpose)
      return good({ changed: false, said: 'that is noted already' })
    const others = channels.filter(
      // There is one channel for baked light
      (c) => c.channel !== channel && !(purpose === 'lightmap' && c.purpose === 'lightmap'),
    )
    noteOfAsset(work.document, {
      channels: [...others, ...(purpose === AS_CLASS ? [] : [{ channel, purpose }])].sort(
        (a, b) => a.channel - b.channel,
      ),
    })
    return good({
      changed: true,
      said: purpose === AS_CLASS ? `UV${channel} is what its class says` : `UV${channel} is for ${purpose}`,
    })
  },
})
