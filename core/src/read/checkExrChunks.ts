import { bad, type Outcome } from '@stern-gate/contract'

/** What the header of an OpenEXR picture says of its blocks. */
export interface ExrBlocks {
  width: number
  height: number
  /** First row of the data window. */
  top: number
  /** Of all channels together. */
  bytesPerTexel: number
  /** Number of the compression, 0 to 9, as the format counts them. */
  compression: number
  /** Sides of a tile; null for rows. Only pictures of one level are walked. */
  tile: { width: number; height: number; levels: boolean } | null
  /** Deep pictures and those of several parts are laid out otherwise and are not walked. */
  plain: boolean
}

/**
 * Rows of a block by compression: none, RLE, ZIPS, ZIP, PIZ, PXR24, B44, B44A, DWAA, DWAB (OpenEXR File
 * Layout).
 */
const rowsOfBlock = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256]
const PIZ = 4,
  DWAA = 8
const BITMAP_BYTES = 8192,
  DWA_HEAD = 88

const hint = 'The picture is damaged; save or copy it again.'

/**
 * Walks over the blocks of a picture whose header ends at `from`: each must lie in the file, belong to a row
 * or tile of the picture, and hold what its own head claims. A decoder that trusts these numbers reads for
 * hours. Faults: image/truncated, image/bad-structure.
 */
export function checkExrChunks(bytes: Uint8Array, from: number, blocks: ExrBlocks): Outcome<never> | null {
  const { width, height, tile, plain, compression } = blocks
  if (!plain || tile?.levels) return null
  const rows = rowsOfBlock[compression]
  if (rows === undefined) return broken(`compression ${compression}`, from)
  const count = tile
    ? Math.ceil(width / tile.width) * Math.ceil(height / tile.height)
    : Math.ceil(height / rows)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    head = tile ? 20 : 8
  let at = from + count * 8
  for (let i = 0; i < count; i++) {
    if (at + head > bytes.length) return cut(at)
    const size = view.getUint32(at + head - 4, true)
    if (!placed(view, at, blocks)) return broken(`block ${i + 1} of ${count}`, at)
    if (at + head + size > bytes.length) return cut(at)
    // A block that packing would have made larger is stored as it is
    if (size < rawSize(view, at, blocks, rows) && !holdsItsParts(view, at + head, size, compression))
      return broken(`block ${i + 1} of ${count}`, at)
    at += head + size
  }
  return null
}

const cut = (offset: number) => bad('image/truncated', 'The EXR ends before its last row.', hint, { offset })
const broken = (part: string, offset: number) =>
  bad('image/bad-structure', 'The EXR holds something that is no block of its picture.', hint, {
    part,
    offset,
  })

function placed(view: DataView, at: number, { width, height, top, tile }: ExrBlocks): boolean {
  const first = view.getInt32(at, true)
  if (!tile) return first >= top && first < top + height
  const row = view.getInt32(at + 4, true)
  return first >= 0 && first * tile.width < width && row >= 0 && row * tile.height < height
}

function rawSize(
  view: DataView,
  at: number,
  { width, height, top, tile, bytesPerTexel }: ExrBlocks,
  rows: number,
): number {
  const first = view.getInt32(at, true)
  if (!tile) return Math.min(rows, top + height - first) * width * bytesPerTexel
  const lines = Math.min(tile.height, height - view.getInt32(at + 4, true) * tile.height)
  return Math.min(tile.width, width - first * tile.width) * lines * bytesPerTexel
}

function holdsItsParts(view: DataView, at: number, size: number, compression: number): boolean {
  if (compression === PIZ) return pizFits(view, at, size)
  return compression < DWAA || dwaFits(view, at, size)
}

/** The span of a bitmap, the bitmap, and the length of what follows. */
function pizFits(view: DataView, at: number, size: number): boolean {
  if (size < 8) return false
  const least = view.getUint16(at, true),
    greatest = view.getUint16(at + 2, true)
  if (greatest >= BITMAP_BYTES) return false
  const bitmap = least <= greatest ? greatest - least + 1 : 0
  return 8 + bitmap <= size && view.getUint32(at + 4 + bitmap, true) <= size - 8 - bitmap
}

/**
 * Eleven numbers of eight bytes, of which three to six are the sizes of the parts, then rules for channels:
 * their size, and names that end with 0.
 */
function dwaFits(view: DataView, at: number, size: number): boolean {
  if (size < DWA_HEAD + 2) return false
  const number = (k: number): number => Number(view.getBigUint64(at + k * 8, true))
  const rules = view.getUint16(at + DWA_HEAD, true)
  const parts = number(2) + number(3) + number(4) + number(5)
  if (DWA_HEAD + rules + parts > size) return false
  const end = at + DWA_HEAD + rules
  for (let k = at + DWA_HEAD + 2; k < end; k += 3) {
    while (k < end && view.getUint8(k) !== 0) k++
    if (k >= end) return false
  }
  return true
}
