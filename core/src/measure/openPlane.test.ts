import { expect, it } from 'vitest'
import { openPlane } from './openPlane'

const places = Float32Array.of(0, 0, 0, 0, 1, 0, 0, 0, 1, 1, 0, 0, 1, 1, 1)
const bounds = { min: [0, 0, 0], max: [1, 1, 1] } as never

it('counts edges in the plane at an end, and leaves out triangles that lie in the plane', () => {
  const sides = [0, 1, 3, 1, 2, 4, 2, 0, 3]
  expect(openPlane({ corners: sides, places }, 3, bounds)).toEqual({
    axis: 'X',
    at: 0,
    side: 'above',
    edges: 3,
  })
  // The cover over them has no open edge of its own in it
  const covered = openPlane({ corners: [...sides.slice(0, 3), 0, 1, 2, 0, 1, 2], places }, 3, bounds)
  expect(covered?.axis).not.toBe('X')
  expect(openPlane({ corners: sides, places }, 4, bounds)).toBeNull()
})
