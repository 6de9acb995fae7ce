import { createHash, webcrypto } from 'node:crypto'
import { createReadStream, readFileSync } from 'node:fs'
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { measureVersions, type MeasuredFile } from '@stern-gate/core'
import { sha256 } from './hashing'

/**
 * Facts by content, kept in a folder between runs. A name that is there is whole: files are written aside and
 * renamed.
 */
export interface FactsCache {
  find: (key: string) => KeptMeasurement | null
  keep: (key: string, measured: MeasuredFile) => Promise<void>
}

/** What is kept of a measured file: everything but where it lay. */
export type KeptMeasurement = Omit<MeasuredFile, 'path'>

export function createFactsCache(folder: string): FactsCache {
  const fileOf = (key: string): string => join(folder, key.slice(0, 2), `${key}.json`)
  return {
    find(key) {
      try {
        // A few kilobytes: a promise for them takes longer than they take to read
        return JSON.parse(readFileSync(fileOf(key), 'utf8')) as KeptMeasurement
      } catch {
        // Not there, or cut short by a full disk or a power cut: measured anew and written over
        return null
      }
    },
    async keep(key, { path: _path, ...kept }) {
      const file = fileOf(key),
        aside = `${file}.${process.pid}.${Math.random().toString(36).slice(2)}`
      await mkdir(dirname(file), { recursive: true })
      await writeFile(aside, JSON.stringify(kept))
      await rename(aside, file)
    },
  }
}

/**
 * Files up to this size are hashed in one read, several at a time beside this thread; four of them and their
 * copies fit anywhere.
 */
const ONE_READ = 16 << 20

/** SHA-256 of a file; large ones are streamed. */
export async function hashFile(file: string, sizeBytes = Infinity): Promise<string> {
  if (sizeBytes <= ONE_READ)
    return Buffer.from(await webcrypto.subtle.digest('SHA-256', await readFile(file))).toString('hex')
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(file, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer)
  return hash.digest('hex')
}

/**
 * Key of what is measured: content, name (the extension is judged, and references start from the folder),
 * what lies around where geometry may be outside, and the versions of the measures.
 */
export const cacheKey = (path: string, contentHash: string, around: string): string =>
  sha256([JSON.stringify(measureVersions), path, contentHash, around].join('\n'))
