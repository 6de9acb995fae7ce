import * as z from 'zod'
import { good, textureRoles } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { asPng, openTexture, stateRole } from '../textureSteps'

/** Roles whose values are colours; those of all others are plain numbers. */
const colourRoles = new Set(['basecolor', 'emissive'])

export const setRole = defineRemedy({
  id: 'colour/set-role',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Set the role',
  words: ({ role }) => (role === 'normal' ? 'Mark as normal map' : `Mark as ${role}`),
  about:
    'Writes into the file what the texture carries, and whether its values are colours (sRGB) or ' +
    'numbers (linear). The picture stays as it is; JPEG, WebP and TGA become PNG.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    role: z.enum(textureRoles).default('normal').describe('what it carries'),
  }),
  async apply(work, { texture: name, role }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    const space = colourRoles.has(role) ? 'srgb' : 'linear'
    if (header.statedRole === role && header.colourSpace === space)
      return good({ changed: false, said: `${name} is marked already` })
    const png = await asPng(texture, header, ports)
    if (!png.ok) return png
    const stated = stateRole(texture, role, space)
    if (!stated.ok) return stated
    return good({ changed: true, said: `${texture.name} is marked as ${role}` })
  },
})
