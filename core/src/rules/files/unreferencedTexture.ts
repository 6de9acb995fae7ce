import * as z from 'zod'
import { defineRule } from '../defineRule'

export const unreferencedTexture = defineRule({
  id: 'files/unreferenced-texture',
  station: 'files',
  meta: {
    title: 'Textures that came along are used',
    why: 'A texture that nothing refers to was forgotten in the pairing, or should not have been delivered.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['textures of the asset', 'inputs of the slots', 'numbered tiles'],
  },
  options: z.strictObject({}),
  messages: {
    unused: 'Came along, but no slot uses it.',
    inside: 'Stands inside the mesh file, but no slot uses it.',
  },
  labels: {},
  judge(subject) {
    const sets = subject.tileSets.filter((set) =>
      set.tiles.some((tile) => subject.textures.find((t) => t.name === tile.texture)!.uses.length > 0),
    )
    const tiles = new Set(sets.flatMap((set) => set.tiles.map((t) => t.texture)))
    return subject.textures
      .filter((t) => t.uses.length === 0 && t.facts && !tiles.has(t.name))
      .map((t) => ({
        message: t.embedded ? ('inside' as const) : ('unused' as const),
        data: {},
        place: { kind: 'texture' as const, texture: t.name },
      }))
  },
})
