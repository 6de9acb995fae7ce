import { createWriteStream } from 'node:fs'
import { mkdir, mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { faultAt, type Fault } from '@stern-gate/contract'
import { unpackZip, type FoundFile } from '@stern-gate/engine'

export interface OpenedArchives {
  files: FoundFile[]
  refused: Fault[]
  close: () => Promise<void>
}

/**
 * Puts what stands in zips in their place among the files, unpacked into a temporary folder until `close`.
 */
export async function openArchives(found: readonly FoundFile[]): Promise<OpenedArchives> {
  const archives = found.filter((f) => /\.zip$/i.test(f.path)),
    refused: Fault[] = []
  if (archives.length === 0) return { files: [...found], refused, close: async () => undefined }
  const folder = await mkdtemp(join(tmpdir(), 'stern-gate-'))
  const files = found.filter((f) => !archives.includes(f))
  for (const [i, archive] of archives.entries()) {
    const beside = archive.path.replace(/[^/]*$/, '')
    const done = await unpackZip(archive.file, archive.sizeBytes, {
      async take(path, stream) {
        const file = join(folder, String(i), path)
        await mkdir(dirname(file), { recursive: true })
        const out = createWriteStream(file)
        await pipeline(stream, out)
        files.push({ path: beside + path, file, sizeBytes: out.bytesWritten })
      },
      async refuse(path, fault) {
        refused.push({ ...fault, where: { ...fault.where, file: `${archive.path}: ${path}` } })
      },
    })
    if (!done.ok) refused.push(faultAt(done.fault, { file: archive.path }))
  }
  return { files, refused, close: () => rm(folder, { recursive: true, force: true }) }
}
