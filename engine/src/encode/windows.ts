import {
  bad,
  good,
  type EncodedFormat,
  type EncodingPlan,
  type Outcome,
  type TextureRole,
} from '@stern-gate/contract'
import {
  comparePixels,
  readTextureHeader,
  resizePixels,
  rowsOfWindow,
  seededNumbers,
  usedRows,
  withThird,
  type PixelError,
  type Pixels,
  type UsedRows,
} from '@stern-gate/core'
import { decodeImage } from '../imagePorts'
import { encodedFile, isVectorMap, meaningOf, readBack, rgbaOf } from './encodeTexture'

/** Windows that are tried, and their side in texels; pictures up to twice that are tried whole. */
const WINDOWS = 4,
  SIDE = 256
const SEED = 20_261_130

/** A picture, and the texels of it that count; null: all of them. */
export interface Looked {
  picture: Pixels
  rows: UsedRows | null
}

/** A picture with what UV islands use of it, by its cells. */
export const lookedAt = (picture: Pixels, cells: Uint32Array | null): Looked => ({
  picture,
  rows: cells && usedRows(picture, cells),
})

/** So many places are tried for windows that are used for the greater part. */
const PLACES = 64

/** The whole picture, or windows of it spread by a seed, all on texels that blocks begin at. */
export function windowsOf(whole: Looked): Looked[] {
  const { picture, rows } = whole
  const { width, height } = picture
  if (width <= SIDE * 2 && height <= SIDE * 2) return [whole]
  const random = seededNumbers(SEED)
  const w = Math.min(SIDE, width),
    h = Math.min(SIDE, height)
  const isUsed = ({ x, y }: { x: number; y: number }): boolean =>
    [0.25, 0.5, 0.75].filter((d) => rows!(Math.floor(y + h * d)).columns[Math.floor(x + w * d)]).length > 1
  const places = Array.from({ length: PLACES }, () => ({
    x: Math.floor((random() * (width - w)) / 4) * 4,
    y: Math.floor((random() * (height - h)) / 4) * 4,
  }))
  const used = rows ? places.filter(isUsed) : places
  return (used.length > 0 ? used : places).slice(0, WINDOWS).map(({ x, y }) => ({
    picture: cutOut(picture, x, y, w, h),
    rows: rows && rowsOfWindow(rows, { x, y, width: w }),
  }))
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

/** How far channels may stray – levels of 255, and share of the texels beyond them – and still say nothing. */
export interface Stray {
  levels: number
  share: number
}
const exact: Stray = { levels: 0, share: 0 }

/** Vectors need two channels; of other pictures those that vary, and of a grey one the first alone. */
export function neededChannels(pixels: Pixels, role: TextureRole | null, stray = exact): number[] {
  if (isVectorMap(pixels, role)) return [0, 1]
  const { data, width, height } = rgbaOf(pixels),
    most = width * height * stray.share
  let coloured = 0,
    seeThrough = 0
  for (let k = 0; k < width * height * 4 && (coloured <= most || seeThrough <= most); k += 4) {
    const red = data[k]!
    if (Math.abs(data[k + 1]! - red) > stray.levels || Math.abs(data[k + 2]! - red) > stray.levels) coloured++
    if (data[k + 3]! < 255 - stray.levels) seeThrough++
  }
  return [...(coloured <= most ? [0] : [0, 1, 2]), ...(seeThrough <= most ? [] : [3])]
}

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
  { picture, rows }: Looked,
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
  return good(comparePixels(source, enlarged, compared, { vectors, rows }))
}

/** Errors in dB of pictures together: of the mean square; null where nothing differs. */
export function meanDecibels(errors: readonly (number | null)[]): number | null {
  const squares = errors.reduce<number>((sum, dB) => sum + (dB === null ? 0 : 10 ** (-dB / 10)), 0)
  return squares === 0 ? null : -10 * Math.log10(squares / errors.length)
}

/** More texels are not looked at. */
const MOST_TEXELS = 8192 * 8192

/** The picture of a file that is to be tried. Faults: of reading, image/too-large. */
export async function pictureToTry(bytes: Uint8Array, path: string): Promise<Outcome<Pixels>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  const { width, height } = header.value
  return width * height > MOST_TEXELS
    ? bad('image/too-large', `${width} × ${height} texels are more than is encoded.`, 'Resize it first.')
    : decodeImage(bytes, header.value)
}
