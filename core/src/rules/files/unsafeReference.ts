import * as z from 'zod'
import { defineRule } from '../defineRule'

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
  options: z.strictObject({}),
  messages: {
    found: '{why} It is not followed; a file of that name came and is used instead.',
    lost: '{why} It is not followed, and no file of that name came.',
  },
  labels: {},
  judge: (subject) =>
    subject.references.filter((r) => r.unsafe !== null).map((r) => ({
      message: r.resolved === null ? ('lost' as const) : ('found' as const), data: { why: r.unsafe!, code: 'gltf/unsafe-reference' }, place: { kind: 'file' as const, file: r.asked },
    })),
})
