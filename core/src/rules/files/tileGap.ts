import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const tileGap = defineRule({
  id: 'files/tile-gap',
  station: 'files',
  meta: {
    title: 'A numbered tile sequence has no gaps',
    why: 'Where a tile is missing the mesh shows nothing or the tile before it, and it is noticed from behind.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['numbered tiles by name'],
  },
  options: z.strictObject({}),
  messages: {
    gap: '{set} runs from {from} to {to}; {missing} did not come.',
  },
  labels: {},
  judge: (subject) =>
    findingsOf(subject.tileSets, (set) => {
      const from = set.tiles[0]!.number,
        to = set.tiles.at(-1)!.number,
        { missing } = set
      return missing.length === 0
        ? null
        : {
            message: 'gap' as const,
            data: {
              set: set.name,
              from,
              to,
              missing: missing
                .slice(0, 12)
                .map((tile) => tile.number)
                .join(', '),
            },
            place: { kind: 'texture' as const, texture: set.tiles[0]!.texture },
            measure: missing.length,
          }
    }),
})
