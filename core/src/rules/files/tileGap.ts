import * as z from 'zod'
import { defineRule } from '../defineRule'

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
    subject.tileSets.flatMap((set) => {
      const numbers = set.tiles.map((t) => t.number)
      const from = numbers[0]!, to = numbers.at(-1)!
      const missing = missingTiles(numbers)
      return missing.length === 0 ? [] : [{ message: 'gap' as const, data: { set: set.name, from, to, missing: missing.slice(0, 12).join(', ') }, place: { kind: 'texture' as const, texture: set.tiles[0]!.texture }, measure: missing.length }]
    }),
})

/** Numbers between the first and the last that are not there; between rows only columns that another row uses count. */
function missingTiles(numbers: readonly number[]): number[] {
  const have = new Set(numbers), columns = new Set(numbers.map((n) => (n - 1001) % 10))
  const oneRow = Math.floor((numbers[0]! - 1001) / 10) === Math.floor((numbers.at(-1)! - 1001) / 10)
  const missing: number[] = []
  for (let n = numbers[0]!; n < numbers.at(-1)!; n++) if (!have.has(n) && (oneRow || columns.has((n - 1001) % 10))) missing.push(n)
  return missing
}
