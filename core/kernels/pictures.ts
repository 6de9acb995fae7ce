import { countAt } from './numbers'

/** Bytes are taken 48 at a time, a multiple of 1, 2, 3 and 4 channels, as three vectors of sixteen. */
const GROUP: u32 = 48
/** Sums of 16 bits hold so many bytes at the most. */
const MOST_GROUPS: u32 = 256
/** Sums of sixteen places in 16 bits, then sums of squares in 32 bits. */
const part: usize = memory.data(96, 16)

/**
 * Goes through groups of bytes and keeps, by place in the group: least and greatest values in `least` and the
 * 48 bytes behind it, sums and then sums of squares in `sums`, 64 bits each. All go on from what stands
 * there.
 */
export function scanBytes(bytes: usize, groups: u32, least: usize, sums: usize): void {
  for (let from: u32 = 0; from < groups; from += MOST_GROUPS) {
    const at = bytes + <usize>(from * GROUP),
      count = min(MOST_GROUPS, groups - from)
    // One vector after the other: all three at once would need more registers than there are
    for (let v: usize = 0; v < 3; v++) {
      scanVector(at + v * 16, count, least + v * 16)
      const own = sums + v * 128
      for (let i: usize = 0; i < 16; i++) {
        store<u64>(own + i * 8, load<u64>(own + i * 8) + load<u16>(part + i * 2))
        store<u64>(own + i * 8, load<u64>(own + i * 8, 384) + load<u32>(part + i * 4, 32), 384)
      }
    }
  }
}

function scanVector(bytes: usize, groups: u32, least: usize): void {
  let low = v128.load(least),
    high = v128.load(least, 48)
  let sumLow = i16x8.splat(0),
    sumHigh = i16x8.splat(0),
    first = i32x4.splat(0),
    second = i32x4.splat(0),
    third = i32x4.splat(0),
    fourth = i32x4.splat(0)
  const end = bytes + <usize>(groups * GROUP)
  for (let at = bytes; at < end; at += 48) {
    const values = v128.load(at),
      lower = i16x8.extend_low_i8x16_u(values),
      upper = i16x8.extend_high_i8x16_u(values)
    low = i8x16.min_u(low, values)
    high = i8x16.max_u(high, values)
    sumLow = i16x8.add(sumLow, lower)
    sumHigh = i16x8.add(sumHigh, upper)
    first = i32x4.add(first, i32x4.extmul_low_i16x8_u(lower, lower))
    second = i32x4.add(second, i32x4.extmul_high_i16x8_u(lower, lower))
    third = i32x4.add(third, i32x4.extmul_low_i16x8_u(upper, upper))
    fourth = i32x4.add(fourth, i32x4.extmul_high_i16x8_u(upper, upper))
  }
  v128.store(least, low)
  v128.store(least, high, 48)
  v128.store(part, sumLow)
  v128.store(part, sumHigh, 16)
  v128.store(part, first, 32)
  v128.store(part, second, 48)
  v128.store(part, third, 64)
  v128.store(part, fourth, 80)
}

/**
 * Counts bytes in groups of twelve, a multiple of 1, 2, 3 and 4 channels, each in the table of its place in
 * the group: 256 words a table. Nothing waits for the last count of the same value, however flat a picture
 * is.
 */
export function countBytes(bytes: usize, groups: u32, tables: usize): void {
  const end = bytes + <usize>groups * 12
  for (let at = bytes; at < end; at += 12) {
    const a = load<u32>(at),
      b = load<u32>(at, 4),
      c = load<u32>(at, 8)
    countAt(tables, a & 255)
    countAt(tables + 1024, (a >> 8) & 255)
    countAt(tables + 2048, (a >> 16) & 255)
    countAt(tables + 3072, a >> 24)
    countAt(tables + 4096, b & 255)
    countAt(tables + 5120, (b >> 8) & 255)
    countAt(tables + 6144, (b >> 16) & 255)
    countAt(tables + 7168, b >> 24)
    countAt(tables + 8192, c & 255)
    countAt(tables + 9216, (c >> 8) & 255)
    countAt(tables + 10240, (c >> 16) & 255)
    countAt(tables + 11264, c >> 24)
  }
}

/** A stored value: of 16 bits when `size` is 2, else of 8. */
function valueAt(texel: usize, channel: u32, size: u32): f64 {
  return size === 2 ? <f64>load<u16>(texel + ((<usize>channel) << 1)) : <f64>load<u8>(texel + channel)
}

/** Vectors shorter than this say nothing. */
const SHORTEST: f64 = 0.6

/**
 * Adds up what texels say about being vectors, in 64 bits each: how many are unit long, plausible, facing
 * away; sums of x x, y y, x y, x, y, z, length; how many are grey, their sum, their sum of squares. `size` is
 * 1 or 2 bytes a channel, `full` the greatest value, `grey` how far channels of a grey may lie apart.
 */
export function surveyVectors(
  texels: usize,
  count: u32,
  channels: u32,
  size: u32,
  full: f64,
  grey: f64,
  sums: usize,
): void {
  const step = <usize>(channels * size),
    scale: f64 = 2 / full,
    end = texels + <usize>count * step
  let unit: f64 = load<f64>(sums),
    plausible: f64 = load<f64>(sums, 8),
    away: f64 = load<f64>(sums, 16)
  let sxx = load<f64>(sums, 24),
    syy = load<f64>(sums, 32),
    sxy = load<f64>(sums, 40),
    sx = load<f64>(sums, 48),
    sy = load<f64>(sums, 56),
    sz = load<f64>(sums, 64),
    sum = load<f64>(sums, 72)
  let greys = load<f64>(sums, 80),
    greySum = load<f64>(sums, 88),
    greySquares = load<f64>(sums, 96)
  for (let at = texels; at < end; at += step) {
    const r = valueAt(at, 0, size),
      g = valueAt(at, 1, size),
      b = valueAt(at, 2, size)
    const x = r * scale - 1,
      y = g * scale - 1,
      z = b * scale - 1,
      length = sqrt(x * x + y * y + z * z)
    if (length > 0.9 && length < 1.1) unit++
    if (length > SHORTEST && length < 1.1 && z > 0) plausible++
    if (z < -0.01) away++
    if (abs(r - g) <= grey && abs(g - b) <= grey) {
      greys++
      greySum += g
      greySquares += g * g
    }
    sxx += x * x
    syy += y * y
    sxy += x * y
    sx += x
    sy += y
    sz += z
    sum += length
  }
  store<f64>(sums, unit)
  store<f64>(sums, plausible, 8)
  store<f64>(sums, away, 16)
  store<f64>(sums, sxx, 24)
  store<f64>(sums, syy, 32)
  store<f64>(sums, sxy, 40)
  store<f64>(sums, sx, 48)
  store<f64>(sums, sy, 56)
  store<f64>(sums, sz, 64)
  store<f64>(sums, sum, 72)
  store<f64>(sums, greys, 80)
  store<f64>(sums, greySum, 88)
  store<f64>(sums, greySquares, 96)
}

/**
 * Slopes −x/z and −y/z of texels, 32 bits each in two lists; what is steeper than `steepest` or points away
 * is no number.
 */
export function slopes(
  texels: usize,
  count: u32,
  channels: u32,
  size: u32,
  full: f64,
  steepest: f64,
  across: usize,
  down: usize,
): void {
  const step = <usize>(channels * size),
    half = full / 2,
    least: f64 = 0.05 * half
  for (let t: u32 = 0; t < count; t++) {
    const at = texels + <usize>t * step,
      z = valueAt(at, 2, size) - half,
      over = 1 / z
    const p = (half - valueAt(at, 0, size)) * over,
      q = (half - valueAt(at, 1, size)) * over
    const usable = z > least && abs(p) < steepest && abs(q) < steepest,
      place = (<usize>t) << 2
    store<f32>(across + place, usable ? <f32>p : f32.NaN)
    store<f32>(down + place, usable ? <f32>q : f32.NaN)
  }
}

function slopeAt(list: usize, index: u32): f64 {
  return <f64>load<f32>(list + ((<usize>index) << 2))
}

/**
 * One row's votes on where green points, from … to: adds to the energies of its block under both signs, and
 * to the spread and the number of texels with relief in `tally`. A slope that is no number makes every
 * comparison false.
 */
export function voteRow(
  above: usize,
  below: usize,
  here: usize,
  from: u32,
  to: u32,
  jump: f64,
  change: f64,
  up: usize,
  down: usize,
  tally: usize,
): void {
  let energyUp: f64 = 0,
    energyDown: f64 = 0,
    spread: f64 = 0,
    texels: f64 = 0
  for (let x = from; x < to; x++) {
    const pDown = (slopeAt(below, x) - slopeAt(above, x)) / 2,
      qAcross = (slopeAt(here, x + 1) - slopeAt(here, x - 1)) / 2
    if (!(abs(pDown) + abs(qAcross) < jump)) continue
    // Rows run downward: with green up, ∂p/∂y = −pDown
    const sum = pDown + qAcross,
      difference = pDown - qAcross,
      product = pDown * qAcross
    energyUp += sum * sum
    energyDown += difference * difference
    spread += product * product
    if (abs(pDown) >= change || abs(qAcross) >= change) texels++
  }
  store<f64>(up, load<f64>(up) + energyUp)
  store<f64>(down, load<f64>(down) + energyDown)
  store<f64>(tally, load<f64>(tally) + spread)
  store<f64>(tally, load<f64>(tally, 8) + texels, 8)
}

/**
 * Counts texels that are seen, and those of them that are dark or bright in every colour: three words.
 * `alpha` is its channel, or as many as there are channels when there is none.
 */
export function rangeOf(
  texels: usize,
  count: u32,
  channels: u32,
  size: u32,
  alpha: u32,
  seen: f64,
  low: f64,
  high: f64,
  counts: usize,
): void {
  const step = <usize>(channels * size),
    green: u32 = channels < 3 ? 0 : 1,
    blue: u32 = channels < 3 ? 0 : 2
  for (let t: u32 = 0; t < count; t++) {
    const at = texels + <usize>t * step
    if (alpha < channels && valueAt(at, alpha, size) < seen) continue
    const r = valueAt(at, 0, size),
      g = valueAt(at, green, size),
      b = valueAt(at, blue, size)
    countAt(counts, 0)
    if (r < low && g < low && b < low) countAt(counts, 1)
    else if (r > high && g > high && b > high) countAt(counts, 2)
  }
}
