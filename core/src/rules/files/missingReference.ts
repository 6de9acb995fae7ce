import { z } from 'zod'
import { defineRule } from '../defineRule'

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
  options: z.strictObject({}),
  messages: {
    image: 'Asks for {asked}, which did not come. It feeds {inputs}.',
    unused: 'Asks for {asked}, which did not come. No slot uses it.',
    library: 'Asks for {asked}, which did not come. It holds the values and textures of its slots.',
    buffer: 'Asks for {asked}, which did not come. It holds the geometry: nothing else of this mesh can be checked.',
  },
  labels: {},
  judge: (subject) =>
    subject.references
      .filter((r) => r.resolved === null && r.unsafe === null)
      .map((r) => ({
        message: r.kind !== 'image' ? r.kind : r.slots.length > 0 ? ('image' as const) : ('unused' as const),
        data: { asked: r.asked, inputs: [...new Set(r.slots.map((s) => `${s.input} of ${s.slot}`))].join(', ') },
        place: { kind: 'file' as const, file: r.asked },
      })),
})
