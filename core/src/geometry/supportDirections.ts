import { inBlocks, inKernels } from '../kernels/inKernels'

/** 13 lines: to the faces, edges and corners of a cube; each counts both ways. */
const lines: readonly (readonly [number, number, number])[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [1, 1, 0],
  [1, -1, 0],
  [1, 0, 1],
  [1, 0, -1],
  [0, 1, 1],
  [0, 1, -1],
  [1, 1, 1],
  [1, 1, -1],
  [1, -1, 1],
  [1, -1, -1],
]

/** 26 directions, unit long: along each of the lines, then against each. */
export const supportDirections: readonly (readonly [number, number, number])[] = [1, -1].flatMap((sign) =>
  lines.map(([x, y, z]): [number, number, number] => {
    const length = sign * Math.hypot(x, y, z)
    return [x / length, y / length, z / length]
  }),
)

/**
 * How far points (x y z …) reach in each of the support directions; −Infinity without points. What is no
 * number does not count.
 */
export function supportOf(points: Float32Array): Float64Array {
  return inKernels((room) => {
    const at = room.hold(points),
      most = room.space(26 * 8)
    room.doubles(most, 26).fill(-Infinity)
    inBlocks(Math.floor(points.length / 3), (from, to) => {
      room.run.reach(at, from, to, most)
    })
    return room.doubles(most, 26).map((v, i) => v / Math.hypot(...lines[i % 13]!))
  })
}
