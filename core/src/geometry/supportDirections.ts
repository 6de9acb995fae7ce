/** 13 lines: to the faces, edges and corners of a cube; each counts both ways. */
const lines: readonly (readonly [number, number, number])[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 0], [1, -1, 0], [1, 0, 1], [1, 0, -1], [0, 1, 1], [0, 1, -1], [1, 1, 1], [1, 1, -1], [1, -1, 1], [1, -1, -1]]

/** 26 directions, unit long: along each of the lines, then against each. */
export const supportDirections: readonly (readonly [number, number, number])[] = [1, -1].flatMap((sign) => lines.map(([x, y, z]): [number, number, number] => {
  const length = sign * Math.hypot(x, y, z)
  return [x / length, y / length, z / length]
}))

/** How far points (x y z …) reach in each of the support directions; −Infinity without points. What is no number does not count. */
export function supportOf(points: Float32Array): Float64Array {
  const most = new Float64Array(26).fill(-Infinity)
  for (let k = 0; k + 2 < points.length; k += 3) {
    const x = points[k]!, y = points[k + 1]!, z = points[k + 2]!
    const a = x + y, b = x - y
    raise(most, 0, x)
    raise(most, 1, y)
    raise(most, 2, z)
    raise(most, 3, a)
    raise(most, 4, b)
    raise(most, 5, x + z)
    raise(most, 6, x - z)
    raise(most, 7, y + z)
    raise(most, 8, y - z)
    raise(most, 9, a + z)
    raise(most, 10, a - z)
    raise(most, 11, b + z)
    raise(most, 12, b - z)
  }
  return most.map((v, i) => v / Math.hypot(...lines[i % 13]!))
}

function raise(most: Float64Array, line: number, value: number): void {
  if (value > most[line]!) most[line] = value
  if (-value > most[line + 13]!) most[line + 13] = -value
}
