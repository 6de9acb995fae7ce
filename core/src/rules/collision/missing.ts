import * as z from 'zod'
import { defineRule } from '../defineRule'

export const missing = defineRule({
  id: 'collision/missing',
  station: 'collision',
  meta: {
    title: 'Collision where the class needs it',
    why: 'Without it people walk and things fall straight through, and it is noticed on the last day.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['collision meshes found by name', 'wish of the class'],
  },
  options: z.strictObject({}),
  messages: {
    none: {
      byClass: true,
      text: 'No collision mesh; a {class} must have one. It is looked for by name: {example}.',
    },
  },
  labels: {
    hull: 'Make one hull',
    hulls: 'Make a hull of each part',
    several: 'Make several hulls',
    box: 'Make a box',
    best: 'Make what fits best',
  },
  judge: (subject) =>
    subject.class.collision && subject.mesh?.nodes && subject.parts.collision.length === 0
      ? [
          {
            message: 'none' as const,
            data: { class: subject.class.title.toLowerCase(), example: `${subject.name}_hull` },
            place: { kind: 'asset' as const },
            remedies: [
              { remedy: 'collision/make', options: { kind: 'hull' }, label: 'hull' as const },
              ...(subject.parts.finest.length > 1
                ? [
                    {
                      remedy: 'collision/make',
                      options: { kind: 'hull of each part' },
                      label: 'hulls' as const,
                    },
                  ]
                : []),
              {
                remedy: 'collision/make',
                options: { kind: 'several hulls' },
                label: 'several' as const,
              },
              { remedy: 'collision/make', options: { kind: 'box' }, label: 'box' as const },
              { remedy: 'collision/make', options: { kind: 'best' }, label: 'best' as const },
            ],
          },
        ]
      : [],
})
