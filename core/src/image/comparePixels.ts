import { vectorAt, type Vector } from './normalPixels'
import { fullValue, type Pixels } from './pixels'
import { ownTexels, type UsedRows } from './usedRows'

/** How far a picture is from its source. */
export interface PixelError {
  /** Peak signal-to-noise ratio by channel, in dB; null where nothing differs. */
  psnr: (number | null)[]
  /** Over all compared channels, in dB; null where nothing differs. */
  psnrAll: number | null
  /** Mean structural similarity of the luminance (Wang et al. 2004), by windows of 8 × 8 texels. */
  ssim: number
  /** Angles between the vectors of a normal map, in degrees; null for other pictures. */
  angle: { mean: number; p95: number; most: number } | null
  /** Share of the texels that were compared. */
  share: number
}

/**
 * Compares two pictures of one size, the decoded one with at least the channels that are `compared`; 8 and 16 bit are
 * brought to one scale. With `vectors` the first three channels are normals, whose third is found from the others where
 * the decoded picture has two. With `rows` only the texels count that they say are used; where none is, all do.
 */
export function comparePixels(
  source: Pixels,
  decoded: Pixels,
  compared: readonly number[],
  { vectors = false, rows = null }: { vectors?: boolean; rows?: UsedRows | null } = {},
): PixelError {
  const used = rows ? ownTexels(source, rows) : source
  if (rows && used.data.length === 0) return comparePixels(source, decoded, compared, { vectors })
  const theirs = rows ? ownTexels(decoded, rows) : decoded
  const from = fullValue(source),
    to = fullValue(decoded),
    count = used.width * used.height
  const sums = compared.map(() => 0)
  for (let t = 0; t < count; t++)
    compared.forEach((c, i) => {
      const d = used.data[t * used.channels + c]! / from - theirs.data[t * theirs.channels + c]! / to
      sums[i]! += d * d
    })
  const ratio = (sum: number, n: number): number | null => (sum === 0 ? null : -10 * Math.log10(sum / n))
  return {
    psnr: sums.map((sum) => ratio(sum, count)),
    psnrAll: ratio(
      sums.reduce((a, b) => a + b, 0),
      count * Math.max(1, compared.length),
    ),
    ssim: structuralSimilarity(greyOf(source, compared), greyOf(decoded, compared), source, rows),
    angle: vectors ? anglesBetween(used, theirs) : null,
    share: count / (source.width * source.height),
  }
}

/** Luminance (Rec. 709 on the stored values), or the mean of what is compared, 0 to 1. */
function greyOf(pixels: Pixels, compared: readonly number[]): Float32Array {
  const full = fullValue(pixels),
    { channels, data } = pixels
  const colour = [0, 1, 2].every((c) => compared.includes(c))
  const weights = colour ? [0.2126, 0.7152, 0.0722] : compared.map(() => 1 / compared.length)
  const own = colour ? [0, 1, 2] : compared
  return Float32Array.from({ length: data.length / channels }, (_, t) =>
    own.reduce((sum, c, i) => sum + (weights[i]! * data[t * channels + c]!) / full, 0),
  )
}

const WINDOW = 8,
  STEP = 4
const C1 = 0.01 ** 2,
  C2 = 0.03 ** 2

function structuralSimilarity(
  a: Float32Array,
  b: Float32Array,
  { width, height }: Pick<Pixels, 'width' | 'height'>,
  rows: UsedRows | null,
): number {
  let sum = 0,
    windows = 0
  const across = Math.min(WINDOW, width),
    down = Math.min(WINDOW, height)
  for (let y = 0; y + down <= height; y += STEP)
    for (let x = 0; x + across <= width; x += STEP) {
      // A window counts by the texel in its middle
      if (rows && !rows(y + (down >> 1)).columns[x + (across >> 1)]) continue
      sum += windowSimilarity(a, b, width, x, y, across, down)
      windows++
    }
  // Islands may be narrower than the steps between windows
  return windows === 0 ? structuralSimilarity(a, b, { width, height }, null) : sum / windows
}

function windowSimilarity(
  a: Float32Array,
  b: Float32Array,
  width: number,
  x: number,
  y: number,
  across: number,
  down: number,
): number {
  const n = across * down
  let sa = 0,
    sb = 0,
    saa = 0,
    sbb = 0,
    sab = 0
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const k = (y + j) * width + x + i
      const p = a[k]!,
        q = b[k]!
      sa += p
      sb += q
      saa += p * p
      sbb += q * q
      sab += p * q
    }
  const ma = sa / n,
    mb = sb / n
  const va = Math.max(0, saa / n - ma * ma),
    vb = Math.max(0, sbb / n - mb * mb),
    cov = sab / n - ma * mb
  return ((2 * ma * mb + C1) * (2 * cov + C2)) / ((ma * ma + mb * mb + C1) * (va + vb + C2))
}

function anglesBetween(source: Pixels, decoded: Pixels): NonNullable<PixelError['angle']> {
  const count = source.width * source.height,
    angles = new Float32Array(count)
  const a: Vector = [0, 0, 1],
    b: Vector = [0, 0, 1]
  const from = fullValue(source) / 2,
    to = fullValue(decoded) / 2
  for (let t = 0; t < count; t++) {
    vectorAt(source, t * source.channels, from, a)
    vectorAt(decoded, t * decoded.channels, to, b)
    const dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
    const cross = Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
    angles[t] = (Math.atan2(cross, dot) * 180) / Math.PI
  }
  let sum = 0
  for (const angle of angles) sum += angle
  angles.sort()
  return {
    mean: sum / count,
    p95: angles[Math.min(count - 1, Math.floor(0.95 * count))]!,
    most: angles[count - 1]!,
  }
}
