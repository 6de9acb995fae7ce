import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import { inputsOf, mostAlike } from '../../matching/mostAlike'

export const missingReference = defineRule({
  id: 'files/missing-reference',
  station: 'files',
  meta: {
    title: 'Every file that a mesh asks for came with it',
    why: 'A texture that did not come leaves its slot blank in the game, and nobody can tell which file it was.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['references of the mesh', 'files of the delivery'],
  },
  options: z.strictObject({
    alike: z
      .number()
      .min(0)
      .max(1)
      .default(0.7)
      .describe(
        'likeness of names from which a texture that nobody uses is offered in place of a missing one',
      ),
  }),
  messages: {
    image: 'Asks for {asked}, which did not come. It feeds {inputs}.',
    similar:
      'Asks for {asked}, which did not come. It feeds {inputs}; {texture}, which nothing uses, has a ' +
      'name that is {alike|%} alike.',
    unused: 'Asks for {asked}, which did not come. No slot uses it.',
    library: 'Asks for {asked}, which did not come. It holds the values and textures of its slots.',
    buffer:
      'Asks for {asked}, which did not come. It holds the geometry: nothing else of this mesh can be checked.',
    stem: {
      level: 'caution',
      text: 'Asks for {asked}; {texture} was taken for it, which has another extension.',
    },
  },
  labels: { take: 'Take {texture}' },
  judge: (subject, { alike }) =>
    subject.references
      .filter((r) => r.unsafe === null && (r.resolved === null || r.how === 'stem'))
      .map((r): RawFinding<'image' | 'similar' | 'unused' | 'library' | 'buffer' | 'stem', 'take'> => {
        const place = { kind: 'file' as const, file: r.asked },
          inputs = inputsOf(r)
        const offer = (texture: string) => [
          { remedy: 'files/point-to', options: { asked: r.asked, texture }, label: 'take' as const },
        ]
        if (r.how === 'stem') {
          const texture = subject.textures.find((t) => t.path === r.resolved)?.name ?? r.resolved!
          return {
            message: 'stem' as const,
            data: { asked: r.asked, texture },
            place,
            remedies: offer(texture),
          }
        }
        if (r.kind !== 'image') return { message: r.kind, data: { asked: r.asked, inputs }, place }
        const like = r.slots.length > 0 ? mostAlike(subject, r, alike) : null
        if (like)
          return {
            message: 'similar' as const,
            data: { asked: r.asked, inputs, texture: like.name, alike: like.share },
            place,
            remedies: offer(like.name),
          }
        return {
          message: r.slots.length > 0 ? ('image' as const) : ('unused' as const),
          data: { asked: r.asked, inputs },
          place,
        }
      }),
})
