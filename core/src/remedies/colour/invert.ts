import * as z from 'zod'
import { good, textureRoleSchema } from '@stern-gate/contract'
import { invertPixels } from '../../image/channelPixels'
import { flipChannel } from '../../image/flipChannel'
import { withPngRole } from '../../write/pngRole'
import { defineRemedy } from '../defineRemedy'
import { openTexture, replaceBytes, rewritePixels } from '../textureSteps'

export const invert = defineRemedy({
  id: 'colour/invert',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Invert',
  words: ({ channel }) => (channel === 'all' ? 'Invert' : `Invert ${channel}`),
  about:
    'Turns values upside down: v becomes full minus v, in all colour channels or in one. With ' +
    '“becomes” the file says what it carries from then on. Done twice the values are as before.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    channel: z.enum(['all', 'R', 'G', 'B', 'A']).default('all').describe('which channel'),
    becomes: textureRoleSchema.nullable().default(null).describe('what the texture carries afterwards'),
  }),
  async apply(work, { texture: name, channel, becomes }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    const at = ['R', 'G', 'B', 'A'].indexOf(channel)
    if (at >= header.channels) return good({ changed: false, said: `${name} has no channel ${channel}` })
    const rewritten = await rewritePixels(texture, ports, (pixels) =>
      at < 0 ? invertPixels(pixels) : flipChannel(pixels, at),
    )
    if (!rewritten.ok) return rewritten
    const marked = becomes ? withPngRole(texture.bytes, becomes) : good(texture.bytes)
    if (!marked.ok) return marked
    replaceBytes(texture, marked.value)
    return good({
      changed: true,
      said: `${channel === 'all' ? 'all of' : `channel ${channel} of`} ${texture.name} is inverted`,
    })
  },
})
