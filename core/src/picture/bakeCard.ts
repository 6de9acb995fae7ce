import { linearToSrgb, srgbToLinear } from '../image/transferCurves'
import { faceNormal } from '../geometry/faceNormal'
import { growRings } from '../image/growRings'
import type { Pixels } from '../image/pixels'
import { mixed, rasterTriangle, type Corners, type DepthCanvas } from './rasterTriangle'
import { repeatedTexels, type Texel } from './repeatedTexels'

/** One piece of surface that a card shows. */
export interface CardPiece {
  /** x y z of each vertex in the world, metres. */
  positions: Float32Array
  /** Of each vertex in the world; null: those of the faces. */
  normals: Float32Array | null
  uvs: Float32Array | null
  indices: Uint32Array
  /** Linear RGB and alpha that the picture is multiplied by. */
  factor: readonly [number, number, number, number]
  picture: Pixels | null
  /** Alpha below which nothing is drawn. */
  cutoff: number
}

/** What a card stands in: upright, through the middle of what it shows. */
export interface CardView {
  /** Where u begins and ends along the card's right, from its middle, and its least and greatest height; metres. */
  left: number
  right: number
  bottom: number
  top: number
  /** The middle of the card, x and z. */
  middle: readonly [number, number]
  /** Radians about the vertical; 0 looks along −z. */
  azimuth: number
}

export interface BakedCard {
  /** RGBA in sRGB: alpha is how much of a texel is covered, and colours go on where it is clear. */
  colour: Uint8Array
  /** RGB, green up, in the space of the card. */
  normal: Uint8Array
}

type Vec3 = readonly [number, number, number]
/** Right and front of a card that looks at the viewer from an azimuth. */
export const cardAxes = (azimuth: number): { right: Vec3; front: Vec3 } => ({
  right: [Math.cos(azimuth), 0, -Math.sin(azimuth)],
  front: [Math.sin(azimuth), 0, Math.cos(azimuth)],
})

/** Each texel is drawn in so many points across and down. */
const POINTS = 2

/** Draws what a card shows, in parallel projection without light: width × height texels, rows from the top. */
export function bakeCard(
  pieces: readonly CardPiece[],
  view: CardView,
  width: number,
  height: number,
): BakedCard {
  const canvas: Canvas = {
    width: width * POINTS,
    height: height * POINTS,
    depth: new Float32Array(width * height * POINTS * POINTS).fill(-Infinity),
    colour: new Uint8Array(width * height * POINTS * POINTS * 3),
    normal: new Float32Array(width * height * POINTS * POINTS * 3),
  }
  for (const piece of pieces) drawPiece(piece, view, canvas)
  const baked = shrunk(canvas, width, height)
  continueColours(baked.colour, baked.normal, width, height)
  return baked
}

interface Canvas extends DepthCanvas {
  colour: Uint8Array
  normal: Float32Array
}

function drawPiece(piece: CardPiece, view: CardView, canvas: Canvas): void {
  const { right, front } = cardAxes(view.azimuth),
    { positions: p, indices } = piece
  const count = p.length / 3
  const flat = new Float32Array(count * 3)
  for (let v = 0; v < count; v++) {
    const x = p[v * 3]! - view.middle[0],
      z = p[v * 3 + 2]! - view.middle[1]
    const along = x * right[0] + z * right[2]
    flat[v * 3] = ((along - view.left) / (view.right - view.left)) * canvas.width
    flat[v * 3 + 1] = ((view.top - p[v * 3 + 1]!) / (view.top - view.bottom)) * canvas.height
    flat[v * 3 + 2] = x * front[0] + z * front[2]
  }
  const shade = shader(piece, right, front, canvas)
  for (let k = 0; k + 2 < indices.length; k += 3) {
    const corners = [indices[k]!, indices[k + 1]!, indices[k + 2]!] as const
    if (corners.every((v) => v < count))
      rasterTriangle(flat, corners, canvas, (weights, pixel) => shade(corners, weights, pixel * 3))
  }
}

/** Writes the colour and the normal of a place of a triangle; false where nothing is drawn. */
type Shade = (corners: Corners, weights: Corners, at: number) => boolean

function shader(
  { positions, normals, uvs, factor, picture, cutoff }: CardPiece,
  right: Vec3,
  front: Vec3,
  { colour, normal }: Canvas,
): Shade {
  const texelAt = picture && uvs ? repeatedTexels(picture) : null
  return (corners, weights, at) => {
    const texel = texelAt
      ? texelAt(mixed(uvs!, 2, 0, corners, weights), mixed(uvs!, 2, 1, corners, weights))
      : WHITE
    if ((texel[3] / 255) * factor[3] < cutoff) return false
    for (let c = 0; c < 3; c++) colour[at + c] = tinted(texel[c]!, factor[c]!)
    const n = normals
      ? [0, 1, 2].map((i) => mixed(normals, 3, i, corners, weights))
      : faceNormal(positions, ...corners)
    const out = n[0]! * front[0] + n[2]! * front[2],
      // A leaf is seen from both sides
      side = out < 0 ? -1 : 1
    normal[at] = side * (n[0]! * right[0] + n[2]! * right[2])
    normal[at + 1] = side * n[1]!
    normal[at + 2] = side * out
    return true
  }
}
const WHITE: Texel = [255, 255, 255, 255]

const tinted = (byte: number, factor: number): number =>
  factor === 1 ? byte : Math.round(linearToSrgb(Math.min(1, srgbToLinear(byte / 255) * factor)) * 255)

function shrunk(canvas: Canvas, width: number, height: number): BakedCard {
  const colour = new Uint8Array(width * height * 4),
    normal = new Uint8Array(width * height * 3)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0, 0, 0, 0]
      let covered = 0
      for (let k = 0; k < POINTS * POINTS; k++) {
        const at = (y * POINTS + Math.floor(k / POINTS)) * canvas.width + x * POINTS + (k % POINTS)
        if (canvas.depth[at] === -Infinity) continue
        covered++
        for (let c = 0; c < 3; c++) {
          sum[c]! += canvas.colour[at * 3 + c]!
          sum[c + 3]! += canvas.normal[at * 3 + c]!
        }
      }
      const to = y * width + x
      if (covered === 0) continue
      for (let c = 0; c < 3; c++) colour[to * 4 + c] = Math.round(sum[c]! / covered)
      colour[to * 4 + 3] = Math.round((covered / (POINTS * POINTS)) * 255)
      writeVector(normal, to * 3, sum[3]!, sum[4]!, sum[5]!)
    }
  return { colour, normal }
}

function writeVector(out: Uint8Array, at: number, x: number, y: number, z: number): void {
  const length = Math.hypot(x, y, z)
  const [nx, ny, nz] = length > 0 ? [x / length, y / length, z / length] : [0, 0, 1]
  out[at] = Math.round(nx * 127.5 + 127.5)
  out[at + 1] = Math.round(ny * 127.5 + 127.5)
  out[at + 2] = Math.round(nz * 127.5 + 127.5)
}

/** So many rings of clear texels take the colour beside them; the rest takes the mean. */
const RINGS = 24

/** Colours go on under clear texels, so that smaller mip levels mix nothing else in. Edits in place. */
function continueColours(colour: Uint8Array, normal: Uint8Array, width: number, height: number): void {
  const covered = new Uint8Array(width * height)
  const mean = [0, 0, 0]
  let known = 0
  for (let t = 0; t < covered.length; t++)
    if (colour[t * 4 + 3]! > 0) {
      covered[t] = 1
      known++
      for (let c = 0; c < 3; c++) mean[c]! += colour[t * 4 + c]!
    }
  if (known === 0) return
  const reached = growRings(covered, [width, height], RINGS, (t, [from]) => {
    for (let c = 0; c < 3; c++) {
      colour[t * 4 + c] = colour[from! * 4 + c]!
      normal[t * 3 + c] = normal[from! * 3 + c]!
    }
  })
  for (let t = 0; t < reached.length; t++)
    if (!reached[t]) {
      for (let c = 0; c < 3; c++) colour[t * 4 + c] = Math.round(mean[c]! / known)
      writeVector(normal, t * 3, 0, 0, 1)
    }
}
