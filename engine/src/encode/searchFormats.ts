import {
  bad,
  good,
  type EncodedFormat,
  type FormatSearch,
  type FormatTrying,
  type FormatWish,
  type Outcome,
} from '@stern-gate/contract'
import { textureMemory } from '@stern-gate/core'
import { isVectorMap, keptBy } from './encodeTexture'
import {
  lookedAt,
  pictureToTry,
  lossOf,
  meanDecibels,
  neededChannels,
  sizeBy,
  windowsOf,
  type Looked,
} from './windows'

/** Sides are tried at full, half and quarter length. */
const TIMES = [1, 2, 4]

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
  progress('decoding')
  const source = await pictureToTry(bytes, path)
  if (!source.ok) return source
  const { width, height } = source.value
  const asked: Asked = {
    wish,
    isVectors: isVectorMap(source.value, wish.role),
    needed: neededChannels(source.value, wish.role),
  }
  const formats = wish.formats.filter((f) => asked.needed.every((c) => keptBy(f).includes(c)))
  if (formats.length === 0)
    return bad(
      'encode/refused',
      'None of the formats keeps every channel that says something.',
      'Allow another format.',
    )
  const whole = lookedAt(source.value, cells),
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

/** Error over pictures together: of the mean square in dB, or the mean angle. */
async function errorOver(
  pictures: readonly Looked[],
  format: EncodedFormat,
  times: number,
  asked: Asked,
): Promise<Outcome<number | null>> {
  const { role } = asked.wish,
    errors: (number | null)[] = []
  for (const picture of pictures) {
    const loss = await lossOf(picture, { format, times, role, compared: asked.needed })
    if (!loss.ok) return loss
    errors.push(asked.isVectors ? (loss.value.angle?.mean ?? 0) : loss.value.psnrAll)
  }
  if (!asked.isVectors) return good(meanDecibels(errors))
  return good(errors.reduce<number>((sum, angle) => sum + angle!, 0) / errors.length)
}
