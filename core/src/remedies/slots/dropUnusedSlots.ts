import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { wornSlots } from '../../scene/variants'
import { slotNames } from '../../scene/slotNames'
import { defineRemedy } from '../defineRemedy'

export const dropUnusedSlots = defineRemedy({
  id: 'slots/drop-unused',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Drop unused slots',
  words: () => 'Drop unused slots',
  about:
    'Takes out slots that no triangle uses, under no variant either. Their textures stay with the asset.',
  options: z.strictObject({
    slot: z
      .string()
      .nullable()
      .default(null)
      .describe('name of one slot; null: all that are not used')
      .meta({ names: 'slot' }),
  }),
  safe: true,
  async apply(work, { slot: name }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no slots' })
    const used = wornSlots(work.document)
    const gone = [...slotNames(work.document)].filter(
      ([slot, own]) => !used.has(slot) && (name === null || own === name),
    )
    for (const [slot] of gone) slot.dispose()
    return good({
      changed: gone.length > 0,
      said: gone.length > 0 ? `${gone.map(([, own]) => own).join(', ')} dropped` : 'every slot is used',
    })
  },
})
