import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import { inputsOf, mostAlike } from '../../matching/mostAlike'

export const unsafeReference = defineRule({
  id: 'files/unsafe-reference',
  station: 'files',
  meta: {
    title: 'References are plain relative paths',
    why: 'A path to a drive, to a network address or out of the delivery works on one machine only, and nothing here follows it.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['references of the mesh'],
  },
  options: z.strictObject({
    alike: z
      .number()
      .min(0)
      .max(1)
      .default(0.7)
      .describe(
        'likeness of names from which a texture that nobody uses is offered in place of one that did not come',
      ),
  }),
  messages: {
    found: '{why} It is not followed; {texture}, which came, has that name and is used instead.',
    lost: '{why} It is not followed, and no file of that name came.',
    blank: '{why} It is not followed, and no file of that name came. It feeds {inputs}.',
    similar:
      '{why} It is not followed, and no file of that name came. It feeds {inputs}; {texture}, which ' +
      'nothing uses, has a name that is {alike|%} alike.',
  },
  labels: { write: 'Point it to {texture}', take: 'Take {texture}' },
  judge: (subject, { alike }) =>
    subject.references
      .filter((r) => r.unsafe !== null)
      .map((r): RawFinding<'found' | 'lost' | 'blank' | 'similar', 'write' | 'take'> => {
        const place = { kind: 'file' as const, file: r.asked },
          said = { why: r.unsafe!, code: 'gltf/unsafe-reference' }
        const offer = (texture: string, label: 'write' | 'take') =>
          r.kind === 'image'
            ? [{ remedy: 'files/point-to', options: { asked: r.asked, texture }, label }]
            : []
        if (r.resolved !== null) {
          const texture = subject.textures.find((t) => t.path === r.resolved)?.name ?? r.resolved
          return { message: 'found', data: { ...said, texture }, place, remedies: offer(texture, 'write') }
        }
        if (r.kind !== 'image' || r.slots.length === 0) return { message: 'lost', data: said, place }
        const like = mostAlike(subject, r, alike),
          inputs = inputsOf(r)
        return like
          ? {
              message: 'similar',
              data: { ...said, inputs, texture: like.name, alike: like.share },
              place,
              remedies: offer(like.name, 'take'),
            }
          : { message: 'blank', data: { ...said, inputs }, place }
      }),
})
