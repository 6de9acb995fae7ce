import * as z from 'zod'
import { defineRule } from '../defineRule'

export const strays = defineRule({
  id: 'files/strays',
  station: 'files',
  meta: {
    title: 'The file holds the asset and nothing else',
    why: 'Lights and empty nodes of the modelling scene come into the game with it, and light or clutter every copy.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['nodes of the scene'],
  },
  options: z.strictObject({ empties: z.boolean().default(true).describe('empty nodes count too') }),
  messages: {
    left: '{words} left in the file: {first}.',
  },
  labels: { drop: 'Drop {words}' },
  judge(subject, { empties }) {
    const found = (subject.mesh?.file.strays ?? []).filter((s) => empties || s.kind !== 'empty')
    if (found.length === 0) return []
    const words = (['light', 'empty'] as const)
      .flatMap((kind) => countWords(found.filter((s) => s.kind === kind).length, kind))
      .join(', ')
    return [
      {
        message: 'left' as const,
        data: {
          words,
          first: found
            .slice(0, 3)
            .map((s) => s.node)
            .join(', '),
        },
        place: { kind: 'node' as const, node: found[0]!.node },
        measure: found.length,
        remedies: [{ remedy: 'files/drop-strays', options: { empties }, label: 'drop' as const }],
      },
    ]
  },
})

const plural = { light: 'lights', empty: 'empty nodes' } as const
const single = { light: 'light', empty: 'empty node' } as const

const countWords = (count: number, kind: keyof typeof plural): string[] =>
  count === 0 ? [] : [`${count} ${count === 1 ? single[kind] : plural[kind]}`]
