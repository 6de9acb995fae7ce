import { once } from 'node:events'
import { createReadStream } from 'node:fs'
import { PassThrough, type Readable } from 'node:stream'
import { ZipArchive } from 'archiver'
import type { Manifest } from '@stern-gate/contract'

/** A file that goes into a package: where it stands in it, and where it lies on this machine, or its text. */
export type PackageEntry = { path: string } & ({ file: string } | { text: string })

/** The same for every file, so that a package has the same bytes whenever it is made. */
const DATE = new Date(Date.UTC(2000, 0, 1))
const MODE = 0o644
/** Formats that are compressed already. */
const PACKED = /\.(png|jpe?g|webp|avif|ktx2|zip)$/i

/**
 * A zip of the files in the order of their paths, `manifest.json` first, as a stream; the same entries give the
 * same bytes. Breaking off the stream ends it; a file that cannot be read ends it with that error.
 */
export function writePackage(entries: readonly PackageEntry[], manifest: Manifest): Readable {
  const archive = new ZipArchive({ zlib: { level: 6 }, forceLocalTime: false }),
    out = new PassThrough()
  archive.on('error', (error: Error) => out.destroy(error))
  out.on('close', () => archive.abort())
  archive.pipe(out)
  void fill(archive, entries, manifest).catch((error: unknown) => out.destroy(error as Error))
  return out
}

async function fill(
  archive: ZipArchive,
  entries: readonly PackageEntry[],
  manifest: Manifest,
): Promise<void> {
  // One after the other: the archive would open them all, and take them as they come
  const add = async (source: string | Readable, name: string): Promise<void> => {
    const taken = once(archive, 'entry')
    archive.append(source, { name, date: DATE, mode: MODE, store: PACKED.test(name) })
    await taken
  }
  await add(`${JSON.stringify(manifest, null, 2)}\n`, 'manifest.json')
  const sorted = [...entries].sort((a, b) => (a.path < b.path ? -1 : 1))
  for (const entry of sorted) {
    const { path } = entry
    if ('text' in entry) {
      await add(entry.text, path)
      continue
    }
    const source = createReadStream(entry.file)
    // An error before the archive reads it would be nobody's
    await Promise.race([
      once(source, 'ready'),
      once(source, 'error').then(([e]) => Promise.reject(e as Error)),
    ])
    await add(source, path)
  }
  await archive.finalize()
}
