import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { assetNotes, noteOfAsset } from '../../scene/assetNotes'
import { defineRemedy } from '../defineRemedy'

export const keepPivot = defineRemedy({
  id: 'scale/keep-pivot',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Keep the origin as the pivot',
  words: () => 'The origin is meant',
  about:
    'Notes that the pivot stands where it is meant to stand, wherever its class wants it: a part that is placed ' +
    'by the origin of the whole, say. The note stands in the extras of the scene; nothing moves.',
  options: z.strictObject({}),
  async apply(work) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no pivot' })
    if (assetNotes(work.document).pivotMeant) return good({ changed: false, said: 'that is noted already' })
    noteOfAsset(work.document, { pivotMeant: true })
    return good({ changed: true, said: 'the origin is the pivot' })
  },
})
