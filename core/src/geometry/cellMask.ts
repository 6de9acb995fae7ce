import * as z from 'zod'

/** A sheet is looked at in so many cells across and down, whatever its texels are. */
export const CELLS = 256

/** A mask of CELLS × CELLS as a short text: lengths of runs, first of those that are off, as base64. */
export function packCells(mask: Uint8Array): string {
  const bytes: number[] = []
  let on = 0,
    run = 0
  const put = (): void => {
    // Seven bits a byte, the low ones first
    for (; run > 127; run >>>= 7) bytes.push((run & 127) | 128)
    bytes.push(run)
  }
  for (const cell of mask) {
    if (cell !== on) {
      put()
      on = cell
      run = 0
    }
    run++
  }
  put()
  return z.util.uint8ArrayToBase64(Uint8Array.from(bytes))
}

/** Cells as bits: 32 to a word, the first one lowest, eight words to a row. */
export const CELL_WORDS = (CELLS * CELLS) / 32
const ROW_WORDS = CELLS / 32

/** The cells of a text as bits; what is not told stays off. */
export function unpackCells(text: string): Uint32Array {
  const bits = new Uint32Array(CELL_WORDS)
  let at = 0,
    on = 0,
    run = 0,
    shift = 0
  for (const byte of z.util.base64ToUint8Array(text)) {
    run |= (byte & 127) << shift
    shift += 7
    if (byte & 128) continue
    if (on) turnOn(bits, at, Math.min(at + run, CELLS * CELLS))
    at += run
    on = 1 - on
    run = shift = 0
  }
  return bits
}

/** The cells that are on in any of several texts. */
export function joinedCells(texts: readonly string[]): Uint32Array {
  const bits = new Uint32Array(CELL_WORDS)
  for (const text of texts) unpackCells(text).forEach((word, at) => (bits[at]! |= word))
  return bits
}

function turnOn(bits: Uint32Array, from: number, end: number): void {
  for (let at = from; at < end;) {
    const first = at & 31,
      many = Math.min(32 - first, end - at)
    bits[at >>> 5]! |= (many === 32 ? -1 : (1 << many) - 1) << first
    at += many
  }
}

/** The cells left, right, above or below one that is on, which themselves may be on. */
export function cellsBeside(bits: Uint32Array): Uint32Array {
  return bits.map((word, at) => {
    const column = at % ROW_WORDS
    const before = column > 0 ? bits[at - 1]! >>> 31 : 0,
      after = column < ROW_WORDS - 1 ? bits[at + 1]! << 31 : 0
    return (
      (word << 1) | before | (word >>> 1) | after | (bits[at - ROW_WORDS] ?? 0) | (bits[at + ROW_WORDS] ?? 0)
    )
  })
}

export function countCells(bits: Uint32Array): number {
  let count = 0
  for (let word of bits) for (; word !== 0; word &= word - 1) count++
  return count
}

/** A byte of 1 or 0 for each cell. */
export const cellBytes = (bits: Uint32Array): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length: CELLS * CELLS }, (_, cell) => (bits[cell >>> 5]! >>> (cell & 31)) & 1)
