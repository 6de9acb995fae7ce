/** A triangle that reaches over more sheets than this covers all of them. */
const MOST_SHEETS = 4
/**
 * So often the texels of a sheet may be gone over, on average: what lies over itself more often than that is tiled, and
 * leaves hardly a texel untouched.
 */
const MOST_TIMES = 8

/**
 * Visits the texels of a sheet of width × height that triangles of a UV channel touch: those whose middle lies inside
 * one, and those of its corners; some more than once. What lies beyond 0 to 1 comes round again, as a repeated texture
 * does. u goes right, v down, as in glTF. False where triangles cover so much that all counts as touched.
 */
export function visitTexels(
  uv: Float32Array,
  indices: ArrayLike<number>,
  [width, height]: readonly [number, number],
  visit: (texel: number) => void,
): boolean {
  const count = uv.length / 2
  let left = width * height * MOST_TIMES
  const mark = (x: number, y: number): void => {
    // The far edge of the sheet belongs to its last texel, not to the first
    const column = x === width ? width - 1 : round(Math.floor(x), width),
      row = y === height ? height - 1 : round(Math.floor(y), height)
    visit(row * width + column)
  }
  for (let k = 0; k + 2 < indices.length; k += 3) {
    const [a, b, c] = [indices[k]!, indices[k + 1]!, indices[k + 2]!]
    if (a >= count || b >= count || c >= count) continue
    const x = [uv[a * 2]! * width, uv[b * 2]! * width, uv[c * 2]! * width],
      y = [uv[a * 2 + 1]! * height, uv[b * 2 + 1]! * height, uv[c * 2 + 1]! * height]
    if (!x.every(Number.isFinite) || !y.every(Number.isFinite)) continue
    if (reach(x) > MOST_SHEETS * width || reach(y) > MOST_SHEETS * height) return false
    // Half of its box, more or less
    left -= (reach(x) * reach(y)) / 2
    if (left < 0) return false
    for (let i = 0; i < 3; i++) mark(x[i]!, y[i]!)
    visitRows(x, y, (row, from, to) => {
      const first = round(row, height) * width
      for (let column = from; column <= to; column++) visit(first + round(column, width))
    })
  }
  return true
}

/**
 * Visits the texels whose middle lies inside a triangle of a UV channel, each with the number of the triangle's first
 * corner in `indices` and the weights of its corners there. What lies beyond 0 to 1 comes round again; a triangle that
 * reaches over more than a few sheets is left out.
 */
export function visitInside(
  uv: Float32Array,
  indices: ArrayLike<number>,
  [width, height]: readonly [number, number],
  visit: (texel: number, corner: number, weights: readonly [number, number, number]) => void,
): void {
  const count = uv.length / 2
  for (let k = 0; k + 2 < indices.length; k += 3) {
    const corners = [indices[k]!, indices[k + 1]!, indices[k + 2]!]
    if (corners.some((c) => c >= count)) continue
    const x = corners.map((c) => uv[c * 2]! * width),
      y = corners.map((c) => uv[c * 2 + 1]! * height)
    if (!x.every(Number.isFinite) || !y.every(Number.isFinite)) continue
    if (reach(x) > MOST_SHEETS * width || reach(y) > MOST_SHEETS * height) continue
    const area = (x[1]! - x[0]!) * (y[2]! - y[0]!) - (x[2]! - x[0]!) * (y[1]! - y[0]!)
    if (area === 0) continue
    visitRows(x, y, (row, from, to) => {
      for (let column = from; column <= to; column++) {
        const [px, py] = [column + 0.5, row + 0.5]
        const b = ((px - x[0]!) * (y[2]! - y[0]!) - (x[2]! - x[0]!) * (py - y[0]!)) / area,
          c = ((x[1]! - x[0]!) * (py - y[0]!) - (px - x[0]!) * (y[1]! - y[0]!)) / area
        visit(round(row, height) * width + round(column, width), k, [1 - b - c, b, c])
      }
    })
  }
}

const reach = (values: readonly number[]): number => Math.max(...values) - Math.min(...values)
const round = (n: number, size: number): number => ((n % size) + size) % size

/** Gives each row of a triangle with the first and the last column whose middle lies inside it. */
function visitRows(
  x: readonly number[],
  y: readonly number[],
  row: (row: number, from: number, to: number) => void,
): void {
  const last = Math.floor(Math.max(...y) - 0.5)
  for (let own = Math.ceil(Math.min(...y) - 0.5); own <= last; own++) {
    let left = Infinity,
      right = -Infinity
    for (let i = 0; i < 3; i++) {
      const j = (i + 1) % 3
      const t = (own + 0.5 - y[i]!) / (y[j]! - y[i]!)
      if (!(t >= 0 && t <= 1)) continue
      const at = x[i]! + (x[j]! - x[i]!) * t
      left = Math.min(left, at)
      right = Math.max(right, at)
    }
    row(own, Math.ceil(left - 0.5), Math.floor(right - 0.5))
  }
}
