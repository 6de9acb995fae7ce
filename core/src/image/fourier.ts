/**
 * Discrete Fourier transforms of complex numbers, in place. Any length: powers of two by halving (Cooley and Tukey
 * 1965), others as a convolution of such a length (Bluestein 1970).
 */
export interface Transform {
  forward: (re: Float64Array, im: Float64Array) => void
  /** Divided by the length, so that it takes the first one back. */
  back: (re: Float64Array, im: Float64Array) => void
}

/** Transforms of so many numbers; what they need is worked out once. */
export function transformOf(length: number): Transform {
  const run = (length & (length - 1)) === 0 ? halving(length) : convolving(length)
  return {
    forward: run,
    // Real and imaginary part exchanged turn the direction round
    back(re, im) {
      run(im, re)
      for (let k = 0; k < length; k++) {
        re[k]! /= length
        im[k]! /= length
      }
    },
  }
}

type Run = (re: Float64Array, im: Float64Array) => void

function halving(n: number): Run {
  const cos = Float64Array.from({ length: n / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / n)),
    sin = Float64Array.from({ length: n / 2 }, (_, k) => Math.sin((2 * Math.PI * k) / n))
  return (re, im) => {
    turnBits(re, im, n)
    for (let size = 2; size <= n; size *= 2) {
      const half = size / 2,
        step = n / size
      for (let begin = 0; begin < n; begin += size)
        for (let k = 0; k < half; k++) {
          const a = begin + k,
            b = a + half,
            c = cos[k * step]!,
            s = sin[k * step]!
          const x = re[b]! * c + im[b]! * s,
            y = im[b]! * c - re[b]! * s
          re[b] = re[a]! - x
          im[b] = im[a]! - y
          re[a]! += x
          im[a]! += y
        }
    }
  }
}

/** Puts each number where the bits of its place, read backwards, say. */
function turnBits(re: Float64Array, im: Float64Array, n: number): void {
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1
    for (; j & bit; bit >>= 1) j ^= bit
    j ^= bit
    if (i >= j) continue
    ;[re[i], re[j]] = [re[j]!, re[i]!]
    ;[im[i], im[j]] = [im[j]!, im[i]!]
  }
}

function convolving(n: number): Run {
  let size = 1
  while (size < 2 * n - 1) size *= 2
  const whole = transformOf(size)
  // Squares are taken modulo twice the length: angles of large ones would lose their digits
  const angle = (k: number): number => (Math.PI * ((k * k) % (2 * n))) / n
  const cos = Float64Array.from({ length: n }, (_, k) => Math.cos(angle(k))),
    sin = Float64Array.from({ length: n }, (_, k) => Math.sin(angle(k)))
  const chirpRe = new Float64Array(size),
    chirpIm = new Float64Array(size)
  for (let k = 0; k < n; k++) {
    chirpRe[k] = chirpRe[(size - k) % size] = cos[k]!
    chirpIm[k] = chirpIm[(size - k) % size] = sin[k]!
  }
  whole.forward(chirpRe, chirpIm)
  const a = new Float64Array(size),
    b = new Float64Array(size)
  return (re, im) => {
    a.fill(0)
    b.fill(0)
    for (let k = 0; k < n; k++) {
      a[k] = re[k]! * cos[k]! + im[k]! * sin[k]!
      b[k] = im[k]! * cos[k]! - re[k]! * sin[k]!
    }
    whole.forward(a, b)
    for (let k = 0; k < size; k++) {
      const x = a[k]! * chirpRe[k]! - b[k]! * chirpIm[k]!
      b[k] = a[k]! * chirpIm[k]! + b[k]! * chirpRe[k]!
      a[k] = x
    }
    whole.back(a, b)
    for (let k = 0; k < n; k++) {
      re[k] = a[k]! * cos[k]! + b[k]! * sin[k]!
      im[k] = b[k]! * cos[k]! - a[k]! * sin[k]!
    }
  }
}

/** Transforms a field of width × height numbers, rows first, in place. */
export function transformField(
  re: Float64Array,
  im: Float64Array,
  [width, height]: readonly [number, number],
  way: keyof Transform,
): void {
  const across = transformOf(width)[way],
    down = transformOf(height)[way]
  for (let y = 0; y < height; y++)
    across(re.subarray(y * width, (y + 1) * width), im.subarray(y * width, (y + 1) * width))
  const a = new Float64Array(height),
    b = new Float64Array(height)
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) {
      a[y] = re[y * width + x]!
      b[y] = im[y * width + x]!
    }
    down(a, b)
    for (let y = 0; y < height; y++) {
      re[y * width + x] = a[y]!
      im[y * width + x] = b[y]!
    }
  }
}
