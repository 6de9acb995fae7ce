import {
  good,
  type EncodedFormat,
  type EncodingPlan,
  type Outcome,
  type TextureRole,
} from '@stern-gate/contract'
import {
  comparePixels,
  resizePixels,
  seededNumbers,
  usedRows,
  withThird,
  type PixelError,
  type Pixels,
} from '@stern-gate/core'
import { encodedFile, meaningOf, readBack, rgbaOf } from './encodeTexture'

/** Windows that are tried, and their side in texels; pictures up to twice that are tried whole. */
const WINDOWS = 4,
  SIDE = 256
const SEED = 20_261_130

/** A picture, and the cells of it that count. */
export interface Looked {
  picture: Pixels
  cells: Uint32Array | null
}
/** So many places are tried for windows that are used for the greater part. */
const PLACES = 64

/** The whole picture, or windows of it spread by a seed, all on texels that blocks begin at. */
export function windowsOf({ picture, cells }: Looked): Looked[] {
  const { width, height } = picture
  if (width <= SIDE * 2 && height <= SIDE * 2) return [{ picture, cells }]
  const random = seededNumbers(SEED)
  const w = Math.min(SIDE, width),
    h = Math.min(SIDE, height)
  const rows = cells && usedRows(picture, cells)
  const isUsed = ({ x, y }: { x: number; y: number }): boolean =>
    [0.25, 0.5, 0.75].filter((d) => rows!(Math.floor(y + h * d)).columns[Math.floor(x + w * d)]).length > 1
  const places = Array.from({ length: PLACES }, () => ({
    x: Math.floor((random() * (width - w)) / 4) * 4,
    y: Math.floor((random() * (height - h)) / 4) * 4,
  }))
  const used = rows ? places.filter(isUsed) : places
  return (used.length > 0 ? used : places)
    .slice(0, WINDOWS)
    .map(({ x, y }) => ({ picture: cutOut(picture, x, y, w, h), cells: null }))
}

function cutOut(pixels: Pixels, x: number, y: number, w: number, h: number): Pixels {
  const { width, channels, data } = pixels
  const own = data.slice(0, w * h * channels)
  for (let row = 0; row < h; row++) {
    const from = ((y + row) * width + x) * channels
    own.set(data.subarray(from, from + w * channels), row * w * channels)
  }
  return { ...pixels, width: w, height: h, data: own }
}

/** Vectors need two channels; of other pictures those that vary, and of a grey one the first alone. */
export function neededChannels(pixels: Pixels, role: TextureRole | null): number[] {
  if (role === 'normal' && pixels.channels >= 3) return [0, 1]
  const { data, width, height } = rgbaOf(pixels)
  let isGrey = true,
    isOpaque = true
  for (let k = 0; k < width * height * 4 && (isGrey || isOpaque); k += 4) {
    if (data[k] !== data[k + 1] || data[k] !== data[k + 2]) isGrey = false
    if (data[k + 3] !== 255) isOpaque = false
  }
  return [...(isGrey ? [0] : [0, 1, 2]), ...(isOpaque ? [] : [3])]
}

/** Whether a picture is taken as vectors, whose error is an angle. */
export const isVectorMap = (pixels: Pixels, role: TextureRole | null): boolean =>
  role === 'normal' && pixels.channels >= 3

/** How a picture is tried: in a format, shorter by so many times, as what it carries, by channels of four. */
export interface Trying {
  format: EncodedFormat
  times: number
  role: TextureRole | null
  compared: readonly number[]
}

export const sizeBy = ({ width, height }: Pixels, times: number): { width: number; height: number } => ({
  width: Math.max(1, Math.round(width / times)),
  height: Math.max(1, Math.round(height / times)),
})

/** What one picture loses: shrunk in the right light, encoded, read back and enlarged again. Faults: encode/refused. */
export async function lossOf(
  { picture, cells }: Looked,
  { format, times, role, compared }: Trying,
): Promise<Outcome<PixelError>> {
  const meaning = meaningOf(role),
    vectors = isVectorMap(picture, role)
  const small = sizeBy(picture, times)
  const shrunk = times === 1 ? picture : resizePixels(picture, small.width, small.height, meaning)
  const plan: EncodingPlan = { format, quality: 'good', container: 'ktx2', mips: false, role, cutoff: null }
  const file = await encodedFile(shrunk, plan, () => undefined)
  if (!file.ok) return file
  const back = await readBack(file.value.file, plan)
  if (!back.ok) return back
  const whole = vectors && back.value.pixels.channels === 2 ? withThird(back.value.pixels) : back.value.pixels
  const enlarged = times === 1 ? whole : resizePixels(whole, picture.width, picture.height, meaning)
  const source: Pixels = { ...rgbaOf(picture), channels: 4, depth: 8 }
  return good(comparePixels(source, enlarged, compared, { vectors, cells }))
}

/** Errors in dB of pictures together: of the mean square; null where nothing differs. */
export function meanDecibels(errors: readonly (number | null)[]): number | null {
  const squares = errors.reduce<number>((sum, dB) => sum + (dB === null ? 0 : 10 ** (-dB / 10)), 0)
  return squares === 0 ? null : -10 * Math.log10(squares / errors.length)
}
