import type { Bounds } from '@stern-gate/contract'
import { faceCross } from '../geometry/faceNormal'
import { fullValue, type Pixels } from '../image/pixels'
import { mixed, rasterTriangle, type Corners, type DepthCanvas } from './rasterTriangle'
import { repeatedTexels, type Texel } from './repeatedTexels'

/**
 * One piece of surface to draw: world positions, optional normals and UVs, a flat colour (0 to 1, sRGB) or a
 * picture.
 */
export interface ThumbnailPiece {
  positions: Float32Array
  normals: Float32Array | null
  uvs: Float32Array | null
  indices: Uint32Array
  colour: [number, number, number]
  picture: Pixels | null
}

/** Stage grey, sRGB 119. */
const BACKGROUND = 119
const SUPERSAMPLE = 2
const AZIMUTH = (35 * Math.PI) / 180
const ELEVATION = (20 * Math.PI) / 180
const KEY: Vector = [0.45, 0.75, 0.5]
const FILL: Vector = [-0.8, 0.25, 0.1]

type Vector = [number, number, number]

/**
 * Draws pieces from the front right above, in parallel projection, lit by two lights; gives RGB pixels, size
 * × size. Pure: the same input gives the same picture.
 */
export function drawThumbnail(pieces: readonly ThumbnailPiece[], bounds: Bounds, size: number): Pixels {
  const side = size * SUPERSAMPLE
  const colour = new Uint8Array(side * side * 3).fill(BACKGROUND)
  const depth = new Float32Array(side * side).fill(-Infinity)
  const project = projection(bounds, side)
  for (const piece of pieces) drawPiece(piece, project, { colour, depth, width: side, height: side })
  return shrink(colour, side, size)
}

interface Canvas extends DepthCanvas {
  colour: Uint8Array
}
type Project = (x: number, y: number, z: number, out: Float32Array, at: number) => void

/** Fits the turned box into the square with a margin. */
function projection(bounds: Bounds, side: number): Project {
  const ca = Math.cos(AZIMUTH),
    sa = Math.sin(AZIMUTH),
    ce = Math.cos(ELEVATION),
    se = Math.sin(ELEVATION)
  const turn = (x: number, y: number, z: number): Vector => {
    const rx = ca * x - sa * z,
      rz = sa * x + ca * z
    return [rx, ce * y - se * rz, se * y + ce * rz]
  }
  let x0 = Infinity,
    x1 = -Infinity,
    y0 = Infinity,
    y1 = -Infinity
  for (let corner = 0; corner < 8; corner++) {
    const [x, y] = turn(
      corner & 1 ? bounds.max[0] : bounds.min[0],
      corner & 2 ? bounds.max[1] : bounds.min[1],
      corner & 4 ? bounds.max[2] : bounds.min[2],
    )
    x0 = Math.min(x0, x)
    x1 = Math.max(x1, x)
    y0 = Math.min(y0, y)
    y1 = Math.max(y1, y)
  }
  const scale = (side * 0.88) / Math.max(x1 - x0, y1 - y0, 1e-9)
  return (x, y, z, out, at) => {
    const [px, py, pz] = turn(x, y, z)
    out[at] = side / 2 + (px - (x0 + x1) / 2) * scale
    out[at + 1] = side / 2 - (py - (y0 + y1) / 2) * scale
    out[at + 2] = pz
  }
}

function drawPiece(piece: ThumbnailPiece, project: Project, canvas: Canvas): void {
  const count = piece.positions.length / 3
  const screen = new Float32Array(count * 3)
  for (let v = 0; v < count; v++)
    project(piece.positions[v * 3]!, piece.positions[v * 3 + 1]!, piece.positions[v * 3 + 2]!, screen, v * 3)
  const texelAt = piece.picture && repeatedTexels(piece.picture)
  for (let k = 0; k + 2 < piece.indices.length; k += 3) {
    const a = piece.indices[k]!,
      b = piece.indices[k + 1]!,
      c = piece.indices[k + 2]!
    if (a < count && b < count && c < count) drawTriangle(piece, texelAt, screen, [a, b, c], canvas)
  }
}

function drawTriangle(
  { positions, normals, uvs, colour: own }: ThumbnailPiece,
  texelAt: ((u: number, v: number) => Texel) | null,
  screen: Float32Array,
  corners: Corners,
  canvas: Canvas,
): void {
  const { colour } = canvas
  const light = corners.map((v) =>
    lightAt(
      normals
        ? [normals[v * 3]!, normals[v * 3 + 1]!, normals[v * 3 + 2]!]
        : faceCross(positions, ...corners),
    ),
  )
  rasterTriangle(screen, corners, canvas, (weights, pixel) => {
    const texel =
      texelAt && uvs ? texelAt(mixed(uvs, 2, 0, corners, weights), mixed(uvs, 2, 1, corners, weights)) : WHITE
    if (texel[3] < 127.5) return false
    const shade = weights[0] * light[0]! + weights[1] * light[1]! + weights[2] * light[2]!
    for (let c = 0; c < 3; c++) colour[pixel * 3 + c] = Math.min(255, texel[c]! * own[c]! * shade)
    return true
  })
}
const WHITE: Texel = [255, 255, 255, 255]

/** Two-sided: what faces away is lit as if it were turned. */
function lightAt(normal: Vector): number {
  const length = Math.hypot(...normal) || 1
  const dot = (l: Vector) =>
    Math.abs(normal[0] * l[0] + normal[1] * l[1] + normal[2] * l[2]) / length / Math.hypot(...l)
  return 0.38 + 0.66 * dot(KEY) + 0.16 * dot(FILL)
}

function shrink(colour: Uint8Array, side: number, size: number): Pixels {
  const data = new Uint8Array(size * size * 3)
  const n = side / size
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++)
      for (let c = 0; c < 3; c++) {
        let sum = 0
        for (let j = 0; j < n; j++)
          for (let i = 0; i < n; i++) sum += colour[((y * n + j) * side + x * n + i) * 3 + c]!
        data[(y * size + x) * 3 + c] = Math.round(sum / n / n)
      }
  return { width: size, height: size, channels: 3, depth: 8, data }
}

/** Shrinks a picture to a square thumbnail, keeping its shape, on stage grey; alpha is laid over the grey. */
export function shrinkPicture(picture: Pixels, size: number): Pixels {
  const data = new Uint8Array(size * size * 3).fill(BACKGROUND)
  const scale = Math.max(picture.width, picture.height) / size
  const toByte = 255 / fullValue(picture)
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const sx = Math.floor((x + 0.5) * scale - (size * scale - picture.width) / 2),
        sy = Math.floor((y + 0.5) * scale - (size * scale - picture.height) / 2)
      if (sx < 0 || sy < 0 || sx >= picture.width || sy >= picture.height) continue
      const at = (sy * picture.width + sx) * picture.channels
      const alpha =
        picture.channels === 4
          ? (picture.data[at + 3]! * toByte) / 255
          : picture.channels === 2
            ? (picture.data[at + 1]! * toByte) / 255
            : 1
      for (let c = 0; c < 3; c++) {
        const value = picture.data[at + (picture.channels < 3 ? 0 : c)]! * toByte
        data[(y * size + x) * 3 + c] = Math.round(value * alpha + BACKGROUND * (1 - alpha))
      }
    }
  return { width: size, height: size, channels: 3, depth: 8, data }
}
