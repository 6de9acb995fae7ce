import {
  bad,
  good,
  type EncodedFormat,
  type EncodingPlan,
  type FormatSearch,
  type FormatTrying,
  type FormatWish,
  type Outcome,
} from '@stern-gate/contract'
import {
  comparePixels,
  readTextureHeader,
  resizePixels,
  seededNumbers,
  textureMemory,
  usedRows,
  withThird,
  type Pixels,
} from '@stern-gate/core'
import { decodeImage } from '../imagePorts'
import { encodedFile, keptBy, meaningOf, readBack, rgbaOf } from './encodeTexture'

/** Windows that are tried, and their side in texels; pictures up to twice that are tried whole. */
const WINDOWS = 4,
  SIDE = 256
/** Sides are tried at full, half and quarter length. */
const TIMES = [1, 2, 4]
const SEED = 20_261_130
/** More texels are not looked at. */
const MOST_TEXELS = 8192 * 8192

/**
 * The smallest way to store a texture that holds what is wanted: formats and sizes are tried on seeded windows, and the
 * smallest that holds is confirmed once on the whole picture; where it does not hold there, the next. Formats that do
 * not keep a channel which says something are left out; with `cells`, errors count where UV islands use the picture.
 * Faults: of reading, image/too-large, encode/refused.
 */
export async function searchFormats(
  bytes: Uint8Array,
  path: string,
  wish: FormatWish,
  cells: Uint32Array | null = null,
  progress: (doing: string) => void = () => undefined,
): Promise<Outcome<FormatSearch>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  const { width, height } = header.value
  if (width * height > MOST_TEXELS)
    return bad(
      'image/too-large',
      `${width} × ${height} texels are more than is searched.`,
      'Resize it first.',
    )
  progress('decoding')
  const source = await decodeImage(bytes, header.value)
  if (!source.ok) return source
  const asked: Asked = {
    wish,
    isVectors: wish.role === 'normal' && source.value.channels >= 3,
    needed: neededChannels(source.value, wish),
  }
  const formats = wish.formats.filter((f) => asked.needed.every((c) => keptBy(f).includes(c)))
  if (formats.length === 0)
    return bad(
      'encode/refused',
      'None of the formats keeps every channel that says something.',
      'Allow another format.',
    )
  const whole: Looked = { picture: source.value, cells },
    windows = windowsOf(whole)
  const tried: FormatTrying[] = []
  for (const format of formats)
    for (const times of TIMES) {
      if (Math.min(width, height) / times < 8) continue
      progress(`trying ${format}${times > 1 ? ` at 1/${times}` : ''}`)
      const error = await errorOver(windows, format, times, asked)
      if (!error.ok) return error
      const size = sizeBy(source.value, times)
      tried.push({
        format,
        times,
        memoryBytes: textureMemory(size, format),
        error: error.value,
        holds: holds(error.value, asked),
      })
    }
  tried.sort((a, b) => a.memoryBytes - b.memoryBytes || better(a.error, b.error, asked))
  const unit = asked.isVectors ? 'degrees' : 'dB'
  for (const one of tried.filter((t) => t.holds)) {
    progress(`looking at all of it as ${one.format}`)
    const error = await errorOver([whole], one.format, one.times, asked)
    if (!error.ok) return error
    if (!holds(error.value, asked)) continue
    const { format, times, memoryBytes } = one
    const size = sizeBy(source.value, times)
    return good({
      unit,
      windows: windows.length,
      tried,
      best: { format, times, memoryBytes, error: error.value, width: size.width, height: size.height },
    })
  }
  return good({ unit, windows: windows.length, tried, best: null })
}

interface Asked {
  wish: FormatWish
  isVectors: boolean
  /** Channels of the picture as four that say something. */
  needed: readonly number[]
}

/** dB that are kept where nothing else is said: no difference that is seen at a glance. */
const LEAST = 40

const holds = (error: number | null, { wish, isVectors }: Asked): boolean =>
  error === null || (isVectors ? error <= wish.degrees : error >= (wish.least ?? LEAST))

const better = (a: number | null, b: number | null, { isVectors }: Asked): number => {
  const value = (error: number | null): number => error ?? (isVectors ? 0 : Infinity)
  return isVectors ? value(a) - value(b) : value(b) - value(a)
}

const sizeBy = ({ width, height }: Pixels, times: number): { width: number; height: number } => ({
  width: Math.max(1, Math.round(width / times)),
  height: Math.max(1, Math.round(height / times)),
})

/** Vectors need two channels; of other pictures those that vary, and of a grey one the first alone. */
function neededChannels(pixels: Pixels, { role }: FormatWish): number[] {
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

/** A picture, and the cells of it that count. */
interface Looked {
  picture: Pixels
  cells: Uint32Array | null
}
/** So many places are tried for windows that are used for the greater part. */
const PLACES = 64

/** The whole picture, or windows of it spread by a seed, all on texels that blocks begin at. */
function windowsOf({ picture, cells }: Looked): Looked[] {
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

/** Error over pictures together: of the mean square in dB, or the mean angle. */
async function errorOver(
  pictures: readonly Looked[],
  format: EncodedFormat,
  times: number,
  asked: Asked,
): Promise<Outcome<number | null>> {
  let sum = 0
  for (const picture of pictures) {
    const error = await errorOf(picture, format, times, asked)
    if (!error.ok) return error
    sum += asked.isVectors ? (error.value ?? 0) : error.value === null ? 0 : 10 ** (-error.value / 10)
  }
  const mean = sum / pictures.length
  if (asked.isVectors) return good(mean)
  return good(mean === 0 ? null : -10 * Math.log10(mean))
}

async function errorOf(
  { picture, cells }: Looked,
  format: EncodedFormat,
  times: number,
  { wish, isVectors, needed }: Asked,
): Promise<Outcome<number | null>> {
  const meaning = meaningOf(wish.role)
  const small = sizeBy(picture, times)
  const shrunk = times === 1 ? picture : resizePixels(picture, small.width, small.height, meaning)
  const plan: EncodingPlan = {
    format,
    quality: 'good',
    container: 'ktx2',
    mips: false,
    role: wish.role,
    cutoff: null,
  }
  const file = await encodedFile(shrunk, plan, () => undefined)
  if (!file.ok) return file
  const back = await readBack(file.value.file, plan)
  if (!back.ok) return back
  const whole =
    isVectors && back.value.pixels.channels === 2 ? withThird(back.value.pixels) : back.value.pixels
  const enlarged = times === 1 ? whole : resizePixels(whole, picture.width, picture.height, meaning)
  const source: Pixels = { ...rgbaOf(picture), channels: 4, depth: 8 }
  const { psnrAll, angle } = comparePixels(source, enlarged, needed, { vectors: isVectors, cells })
  return good(isVectors ? (angle?.mean ?? null) : psnrAll)
}
