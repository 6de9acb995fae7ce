import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { slotCalled } from './slotCalled'

const modes = { opaque: 'OPAQUE', cutout: 'MASK', blend: 'BLEND' } as const

export const setAlpha = defineRemedy({
  id: 'slots/set-alpha',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Set the alpha mode',
  words: ({ mode }) => `Alpha: ${mode}`,
  about:
    'Sets how a slot uses alpha: not at all, cut out at a threshold, or blended. Textures stay as they are.',
  options: z.strictObject({
    slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
    mode: z.enum(['opaque', 'cutout', 'blend']).describe('how alpha is used'),
    cutoff: z.number().min(0).max(1).default(0.5).describe('alpha below which a cutout is not drawn'),
  }),
  async apply(work, { slot: name, mode, cutoff }) {
    const found = slotCalled(work, name)
    if (!found.ok) return found
    const slot = found.value
    if (slot.getAlphaMode() === modes[mode] && (mode !== 'cutout' || slot.getAlphaCutoff() === cutoff))
      return good({ changed: false, said: `${name} is set to ${mode} already` })
    slot.setAlphaMode(modes[mode])
    if (mode === 'cutout') slot.setAlphaCutoff(cutoff)
    return good({ changed: true, said: `${name} is set to ${mode}` })
  },
})
