import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { loopOf } from '../../measure/measureClips'
import { defineRemedy } from '../defineRemedy'

export const setLoop = defineRemedy({
  id: 'mesh/set-loop',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Mark a clip as looping',
  words: ({ clip, loop }) => `${clip}: ${loop ? 'loops' : 'once'}`,
  about:
    'Writes into the clip\'s extras whether it is played over and over ("loop"). Its poses stay as they are.',
  options: z.strictObject({
    clip: z.string().describe('name of the clip').meta({ names: 'clip' }),
    loop: z.boolean().default(true).describe('played over and over, or once'),
  }),
  async apply(work, { clip: name, loop }) {
    const clip = work.document
      ?.getRoot()
      .listAnimations()
      .find((c) => c.getName() === name)
    if (!clip) return good({ changed: false, said: `no clip is called ${name}` })
    if (loopOf(clip) === loop) return good({ changed: false, said: 'it is marked so already' })
    clip.setExtras({ ...clip.getExtras(), loop })
    return good({ changed: true, said: loop ? `${name} is played over and over` : `${name} is played once` })
  },
})
