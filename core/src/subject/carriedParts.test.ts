import { expect, it } from 'vitest'
import { withOpenParts, type CarriedParts } from './carriedParts'

const all: CarriedParts = { clips: ['open', 'shut'], collision: 2, levels: 3, skinned: true },
  bare: CarriedParts = { clips: ['shut'], collision: 0, levels: 1, skinned: false }

it('a part that nobody accepted as gone goes on being carried, with the version that had it', () => {
  expect(
    withOpenParts(bare, all, [
      { part: 'clips', version: 1 },
      { part: 'collision', version: 1 },
    ]),
  ).toEqual({
    clips: ['shut', 'open'],
    collision: 2,
    levels: 1,
    skinned: false,
    since: { clips: 1, collision: 1 },
  })
  expect(withOpenParts(bare, all, [{ part: 'levels', version: 2 }])).toMatchObject({
    levels: 3,
    collision: 0,
  })
  expect(withOpenParts(bare, all, [{ part: 'skin', version: 2 }]).skinned).toBe(true)
})

it('what was accepted, or came again, is not asked for', () => {
  expect(withOpenParts(bare, all, [])).toBe(bare)
  expect(withOpenParts(bare, null, [{ part: 'clips', version: 1 }])).toBe(bare)
  const more = withOpenParts({ ...bare, collision: 5 }, all, [{ part: 'collision', version: 1 }])
  expect(more.collision).toBe(5)
})
