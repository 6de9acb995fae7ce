import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname } from 'node:path'
import { promisify } from 'node:util'
import { runInThisContext } from 'node:vm'
import { inflate } from 'node:zlib'
import { decompress } from 'fzstd'
import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { ddsTexels, ktx2Texels, unpackTexels, type Pixels } from '@stern-gate/core'

const damaged = 'The picture is damaged; save or copy it again.'

/** Decodes the largest level of a DDS or KTX2. Faults: image/undecodable, image/truncated. */
export async function decodeStored(bytes: Uint8Array, header: TextureHeader): Promise<Outcome<Pixels>> {
  if (header.format === 'dds') {
    const found = ddsTexels(bytes)
    return found
      ? unpackTexels(bytes.subarray(found.from), header, found.layout)
      : bad(
          'image/format-not-read',
          `Texels of ${header.blockFormat ?? 'this layout'} are not decoded.`,
          'Deliver the source picture.',
        )
  }
  const found = ktx2Texels(bytes)
  if (!found)
    return bad(
      'image/format-not-read',
      `Texels of ${header.blockFormat ?? 'this layout'} are not decoded.`,
      'Deliver the source picture.',
    )
  if (found.layout === 'basis') return transcode(bytes, header)
  const level = await unpackLevel(bytes.subarray(found.from, found.to), found.packing, header)
  return level.ok ? unpackTexels(level.value, header, found.layout) : level
}

/** At most this many bytes a texel come out of a packed level. */
const MOST_BYTES = 16

async function unpackLevel(
  bytes: Uint8Array,
  packing: string,
  header: TextureHeader,
): Promise<Outcome<Uint8Array>> {
  if (packing === 'none') return good(bytes)
  const most = Math.max(64, (header.width + 3) * (header.height + 3) * MOST_BYTES)
  if (packing === 'zlib') return good(await promisify(inflate)(bytes, { maxOutputLength: most }))
  // The length that the frame states is what would be allocated
  const size = zstdSize(bytes)
  return size !== null && size <= most
    ? good(decompress(bytes, new Uint8Array(size)))
    : bad('image/undecodable', 'A packed level does not say a fitting length.', damaged)
}

/** Content size in the frame header (RFC 8878, section 3.1.1.1); null without one. */
function zstdSize(bytes: Uint8Array): number | null {
  if (bytes.length < 14) return null
  const flags = bytes[4]!,
    single = (flags >> 5) & 1,
    width = [single, 2, 4, 8][flags >> 6]!
  if (width === 0) return null
  const at = 5 + (single ? 0 : 1) + [0, 1, 2, 4][flags & 3]!
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  return width === 1
    ? bytes[at]!
    : width === 2
      ? view.getUint16(at, true) + 256
      : width === 4
        ? view.getUint32(at, true)
        : Number(view.getBigUint64(at, true))
}

interface Ktx2File {
  isValid: () => boolean
  startTranscoding: () => boolean
  getImageTranscodedSizeInBytes: (level: number, layer: number, face: number, format: number) => number
  transcodeImage: (
    into: Uint8Array,
    level: number,
    layer: number,
    face: number,
    format: number,
    ...flags: number[]
  ) => boolean
  getWidth: () => number
  getHeight: () => number
  close: () => void
  delete: () => void
}
interface Transcoder {
  KTX2File: new (bytes: Uint8Array) => Ktx2File
  initializeBasis: () => void
}
let transcoder: Promise<Transcoder> | null = null
/** Plain RGBA of 8 bits among the transcoder's formats. */
const RGBA32 = 13

/** The transcoder of Basis Universal, as it comes with three. */
async function loadTranscoder(): Promise<Transcoder> {
  const require = createRequire(import.meta.url),
    file = require.resolve('three/examples/jsm/libs/basis/basis_transcoder.js')
  const [source, wasmBinary] = await Promise.all([
    readFile(file, 'utf8'),
    readFile(file.replace(/js$/, 'wasm')),
  ])
  // The file is a plain script that leaves one function behind
  const wrapped = runInThisContext(
    `(function (require, __filename, __dirname, module, exports) { ${source}\nreturn BASIS })`,
  ) as (...args: unknown[]) => (options: object) => Promise<Transcoder>
  const found = await wrapped(require, file, dirname(file), {}, undefined)({ wasmBinary })
  found.initializeBasis()
  return found
}

async function transcode(bytes: Uint8Array, header: TextureHeader): Promise<Outcome<Pixels>> {
  const { KTX2File } = await (transcoder ??= loadTranscoder())
  const file = new KTX2File(bytes)
  try {
    if (
      !file.isValid() ||
      file.getWidth() !== header.width ||
      file.getHeight() !== header.height ||
      !file.startTranscoding()
    )
      return bad('image/undecodable', `The ${header.blockFormat ?? 'KTX2'} cannot be decoded.`, damaged)
    const data = new Uint8Array(header.width * header.height * 4)
    if (
      file.getImageTranscodedSizeInBytes(0, 0, 0, RGBA32) !== data.length ||
      !file.transcodeImage(data, 0, 0, 0, RGBA32, 0, -1, -1)
    )
      return bad('image/undecodable', `The ${header.blockFormat ?? 'KTX2'} cannot be decoded.`, damaged)
    return good({
      width: header.width,
      height: header.height,
      channels: header.channels,
      depth: 8,
      data: header.channels === 4 ? data : data.filter((_, k) => k % 4 !== 3),
    })
  } finally {
    file.close()
    file.delete()
  }
}
