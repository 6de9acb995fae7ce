import { crc32, deflateRawSync } from 'node:zlib'

export interface ZipEntry {
  name: string | Buffer
  body: Buffer
  packed?: boolean
  unixMode?: number
  flags?: number
  /** Unpacked size that is claimed in place of the true one. */
  claims?: number
  /** Number of an earlier entry whose bytes it points at. */
  sameDataAs?: number
}

/** Writes a zip byte by byte, honest or not (APPNOTE 6.3.10). */
export function zipOf(entries: readonly ZipEntry[]): Buffer {
  const parts: Buffer[] = [],
    list: Buffer[] = [],
    starts: number[] = []
  let at = 0
  for (const entry of entries) {
    const name = Buffer.from(entry.name as string)
    // What is encrypted begins with a head of 12 bytes
    const data = entry.packed
      ? deflateRawSync(entry.body)
      : (entry.flags ?? 0) & 1
        ? Buffer.concat([Buffer.alloc(12), entry.body])
        : entry.body
    const common = Buffer.alloc(26)
    common.writeUInt16LE(20, 0)
    common.writeUInt16LE(entry.flags ?? 0, 2)
    common.writeUInt16LE(entry.packed ? 8 : 0, 4)
    common.writeUInt32LE(checksum(entry.body), 10)
    common.writeUInt32LE(data.length, 14)
    common.writeUInt32LE(entry.claims ?? entry.body.length, 18)
    common.writeUInt16LE(name.length, 22)
    starts.push(entry.sameDataAs === undefined ? at : starts[entry.sameDataAs]!)
    if (entry.sameDataAs === undefined) {
      const local = Buffer.concat([Buffer.from('PK\u0003\u0004'), common, name, data])
      parts.push(local)
      at += local.length
    }
    const tail = Buffer.alloc(14)
    tail.writeUInt32LE(((entry.unixMode ?? 0x81a4) << 16) >>> 0, 6)
    tail.writeUInt32LE(starts.at(-1)!, 10)
    list.push(Buffer.concat([Buffer.from('PK\u0001\u0002'), Buffer.from([20, 3]), common, tail, name]))
  }
  const directory = Buffer.concat(list),
    end = Buffer.alloc(18)
  end.writeUInt16LE(entries.length, 4)
  end.writeUInt16LE(entries.length, 6)
  end.writeUInt32LE(directory.length, 8)
  end.writeUInt32LE(at, 12)
  return Buffer.concat([...parts, directory, Buffer.from('PK\u0005\u0006'), end])
}

/** CRC-32 as zips have it; Node has one from 20.15 on. */
const checksum = (bytes: Buffer): number => crc32(bytes)
