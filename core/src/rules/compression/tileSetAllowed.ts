import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const tileSetAllowed = defineRule({
  id: 'compression/tile-set-allowed',
  station: 'compression',
  meta: {
    title: 'Tile sets stand where the target takes them',
    why: 'A target without tile sets shows the first tile everywhere, so that most of the surface has another part’s picture.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['numbered tiles by name', 'tiles that triangles lie in', 'limit of the target'],
  },
  options: z.strictObject({}),
  messages: {
    set: '{set} is a set of {count|n} tiles; the {target} target takes no tile sets.',
  },
  labels: {},
  judge: (subject) =>
    subject.target.tileSets
      ? []
      : findingsOf(subject.tileSets, (set) =>
          set.tiles.length < 2
            ? null
            : {
                message: 'set' as const,
                data: {
                  set: set.name,
                  count: set.tiles.length,
                  target: subject.target.title.toLowerCase(),
                },
                place: { kind: 'texture' as const, texture: set.tiles[0]!.texture },
                measure: set.tiles.length,
              },
        ),
})
