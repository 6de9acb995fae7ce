/** A picture while it is drawn: how near to the eye each pixel is, greater is nearer. */
export interface DepthCanvas {
  width: number
  height: number
  depth: Float32Array
}
export type Corners = readonly [number, number, number]

/** Less than this, in pixels, is no surface. */
const NO_AREA = 1e-9

/**
 * Draws a triangle of vertices x y depth each, in pixels. `paint` is given the shares of the three corners in each pixel
 * that nothing nearer covers, and its number; false where nothing is drawn there.
 */
export function rasterTriangle(
  screen: Float32Array,
  [a, b, c]: Corners,
  { width, height, depth }: DepthCanvas,
  paint: (weights: Corners, pixel: number) => boolean,
): void {
  const ax = screen[a * 3]!,
    ay = screen[a * 3 + 1]!,
    bx = screen[b * 3]!,
    by = screen[b * 3 + 1]!,
    cx = screen[c * 3]!,
    cy = screen[c * 3 + 1]!
  const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
  if (!(Math.abs(area) > NO_AREA)) return
  const left = Math.max(0, Math.floor(Math.min(ax, bx, cx))),
    right = Math.min(width - 1, Math.ceil(Math.max(ax, bx, cx)))
  const top = Math.max(0, Math.floor(Math.min(ay, by, cy))),
    bottom = Math.min(height - 1, Math.ceil(Math.max(ay, by, cy)))
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const u = ((bx - x - 0.5) * (cy - y - 0.5) - (by - y - 0.5) * (cx - x - 0.5)) / area
      const v = ((cx - x - 0.5) * (ay - y - 0.5) - (cy - y - 0.5) * (ax - x - 0.5)) / area
      const w = 1 - u - v
      if (u < 0 || v < 0 || w < 0) continue
      const z = u * screen[a * 3 + 2]! + v * screen[b * 3 + 2]! + w * screen[c * 3 + 2]!
      const pixel = y * width + x
      if (z > depth[pixel]! && paint([u, v, w], pixel)) depth[pixel] = z
    }
}

/** The value of a vertex attribute of `size` numbers at a place of a triangle, on one axis. */
export const mixed = (
  values: Float32Array,
  size: number,
  axis: number,
  [a, b, c]: Corners,
  [u, v, w]: Corners,
): number => u * values[a * size + axis]! + v * values[b * size + axis]! + w * values[c * size + axis]!
