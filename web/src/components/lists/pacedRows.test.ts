import { expect, it } from 'vitest'
import { nextShown } from './pacedRows'

const rows = (...ids: number[]): { id: string }[] => ids.map((id) => ({ id: String(id) }))
const upTo = (count: number, from = 0): { id: string }[] =>
  Array.from({ length: count }, (_, i) => ({ id: String(from + i) }))

it('the first rows, and few new ones, are shown at once; what went is gone', () => {
  const wanted = rows(3, 1)
  expect(nextShown([], upTo(90))).toHaveLength(90)
  expect(nextShown(rows(1, 2), wanted)).toBe(wanted)
})
it('of a crowd two come with each step, from the top, in their order, until a window is full; then all', () => {
  const wanted = [...upTo(500, 1000), ...rows(1, 2)]
  let shown: readonly { id: string }[] = rows(1, 2)
  const lengths: number[] = []
  while (shown !== wanted && lengths.length < 40) {
    shown = nextShown(shown, wanted)
    lengths.push(shown.length)
  }
  expect(lengths).toEqual([...Array.from({ length: 19 }, (_, i) => 4 + i * 2), 502])
  expect(nextShown(rows(1, 2), wanted).map((r) => r.id)).toEqual(['1000', '1001', '1', '2'])
})
