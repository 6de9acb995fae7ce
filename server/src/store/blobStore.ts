import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { access, mkdir, open, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { FILE_KIND_BYTES } from '@stern-gate/core'
import { sha256 } from '@stern-gate/engine'

export interface StoredBlob {
  sha256: string
  sizeBytes: number
  head: Uint8Array
}

export interface StoredFile {
  sha256: string
  sizeBytes: number
  changedMs: number
}

/** Bytes by their hash. A folder now; another service can stand behind the same functions. */
export interface BlobStore {
  /** Takes a stream, hashing on the way; nothing is held in memory. */
  putStream: (source: Readable) => Promise<StoredBlob>
  putBytes: (bytes: Uint8Array) => Promise<StoredBlob>
  read: (sha: string) => Readable
  has: (sha: string) => Promise<boolean>
  /** Path of the bytes on this machine. */
  localFile: (sha: string) => string
  remove: (sha: string) => Promise<void>
  /** Every stored file. */
  list: () => Promise<StoredFile[]>
  /** When the bytes were stored last; null where they are not there. */
  changedMs: (sha: string) => Promise<number | null>
  /** Writes a few bytes and takes them away again; throws when nothing can be stored. */
  tryWriting: () => Promise<void>
}

/** Enough to recognise what a file is. */
const HEAD_BYTES = FILE_KIND_BYTES
/** Larger than what a full disk may still find room for. */
const TRIAL = new Uint8Array(16_384)
/** A day: no upload takes longer. */
const STALE_MS = 86_400_000

/**
 * A store in a folder: written under a temporary name, flushed, then renamed, so that a name that is there is
 * whole.
 */
export async function createFolderStore(folder: string): Promise<BlobStore> {
  const incoming = join(folder, 'incoming')
  await mkdir(incoming, { recursive: true })
  await dropStale(incoming)
  const localFile = (sha: string) => join(folder, sha.slice(0, 2), sha)
  const settle = async (temporary: string, stored: StoredBlob): Promise<StoredBlob> => {
    await mkdir(join(folder, stored.sha256.slice(0, 2)), { recursive: true })
    await rename(temporary, localFile(stored.sha256))
    return stored
  }
  return {
    localFile,
    async putStream(source) {
      const temporary = join(incoming, randomUUID())
      try {
        const stored = await writeHashed(source, temporary)
        return await settle(temporary, stored)
      } catch (error) {
        await rm(temporary, { force: true }).catch(() => undefined)
        throw error
      }
    },
    async putBytes(bytes) {
      const stored = { sha256: sha256(bytes), sizeBytes: bytes.length, head: bytes.subarray(0, HEAD_BYTES) }
      if ((await stat(localFile(stored.sha256)).catch(() => null))?.size === bytes.length) {
        // Young again: what nobody refers to is taken away when it is old
        const now = new Date()
        await utimes(localFile(stored.sha256), now, now)
        return stored
      }
      const temporary = join(incoming, randomUUID())
      try {
        await writeFile(temporary, bytes, { flush: true })
        return await settle(temporary, stored)
      } catch (error) {
        await rm(temporary, { force: true }).catch(() => undefined)
        throw error
      }
    },
    read: (sha) => createReadStream(localFile(sha)),
    has: (sha) =>
      access(localFile(sha)).then(
        () => true,
        () => false,
      ),
    async tryWriting() {
      const temporary = join(incoming, randomUUID())
      try {
        await writeFile(temporary, TRIAL, { flush: true })
      } finally {
        await rm(temporary, { force: true }).catch(() => undefined)
      }
    },
    remove: (sha) => rm(localFile(sha), { force: true }),
    list: () => listFiles(folder),
    changedMs: async (sha) => (await stat(localFile(sha)).catch(() => null))?.mtimeMs ?? null,
  }
}

/**
 * What a killed process left half written belongs to nobody; other processes may be writing into the folder
 * now.
 */
async function dropStale(incoming: string): Promise<void> {
  for (const name of await readdir(incoming)) {
    const info = await stat(join(incoming, name)).catch(() => null)
    if (info && Date.now() - info.mtimeMs > STALE_MS) await rm(join(incoming, name), { force: true })
  }
}

async function writeHashed(source: Readable, path: string): Promise<StoredBlob> {
  const hash = createHash('sha256')
  let sizeBytes = 0
  let head = Buffer.alloc(0)
  const watch = new Transform({
    transform(chunk: Buffer, _, done) {
      hash.update(chunk)
      sizeBytes += chunk.length
      if (head.length < HEAD_BYTES) head = Buffer.concat([head, chunk.subarray(0, HEAD_BYTES - head.length)])
      done(null, chunk)
    },
  })
  await pipeline(source, watch, createWriteStream(path))
  const file = await open(path, 'r+')
  await file.sync()
  await file.close()
  return { sha256: hash.digest('hex'), sizeBytes, head: new Uint8Array(head) }
}

async function listFiles(folder: string): Promise<StoredFile[]> {
  const found: StoredFile[] = []
  for (const part of await readdir(folder)) {
    if (!/^[0-9a-f]{2}$/.test(part)) continue
    for (const sha256 of await readdir(join(folder, part))) {
      const info = await stat(join(folder, part, sha256)).catch(() => null)
      if (info?.isFile()) found.push({ sha256, sizeBytes: info.size, changedMs: info.mtimeMs })
    }
  }
  return found
}
