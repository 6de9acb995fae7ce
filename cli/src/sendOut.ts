import { mkdtemp, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { good, type AssetReport, type FilePart, type Outcome } from '@stern-gate/contract'
import { faultOfPass, fileStem, isMeshKind, isTextureKind, kindByExtension, withPass } from '@stern-gate/core'
import { hashFile, sha256, type Engine, type FoundFile, type SendingPlan } from '@stern-gate/engine'

/** A file as it goes out. */
export interface SentFile {
  path: string
  part: FilePart
  sha256: string
  sizeBytes: number
  /** Where its bytes lie on this machine. */
  file: string
  /** The path that it came by; undefined for what was made. */
  cameAs: string | undefined
}

/** The files of an asset that its target takes as they came. */
export const asTheyCame = (
  { files }: AssetReport,
  byPath: ReadonlyMap<string, FoundFile>,
): Promise<SentFile[]> =>
  Promise.all(
    files.map(async (path) => {
      const { file, sizeBytes } = byPath.get(path)!
      return {
        path,
        part: partOf(path),
        sha256: await hashFile(file, sizeBytes),
        sizeBytes,
        file,
        cameAs: path,
      }
    }),
  )

const partOf = (path: string): FilePart => {
  const kind = kindByExtension(path)
  return isMeshKind(kind) ? 'mesh' : isTextureKind(kind) ? 'texture' : 'buffer'
}

/**
 * Does the target pass of an asset; what it makes is written below `folder` until it is packed. Faults: of reading, and
 * of a step that does not fit.
 */
export async function madeForTarget(
  engine: Engine,
  folder: string,
  came: readonly SentFile[],
  { draft, pass }: SendingPlan,
  target: string,
): Promise<Outcome<SentFile[]>> {
  const done = await engine.mend(
    {
      name: draft.name,
      assetKind: draft.kind,
      main: draft.main,
      files: came.map(({ path, part, file }) => ({ path, part, file })),
    },
    withPass({ steps: [] }, pass, target),
    { known: came.map((f) => f.sha256), thumbnail: false },
  )
  if (!done.ok) return done
  const undone = faultOfPass(done.value.results)
  if (undone) return undone
  const own = await mkdtemp(join(folder, 'made-')),
    made: SentFile[] = []
  for (const [i, { path, part, bytes }] of done.value.files.entries()) {
    const file = join(own, String(i))
    await writeFile(file, bytes)
    made.push({
      ...{ path, part, file, sha256: sha256(bytes), sizeBytes: bytes.length },
      cameAs: cameAs(path, came),
    })
  }
  return good(made)
}

/** The path that a made file came by: its own, or that of a texture that was written in another format. */
const cameAs = (path: string, came: readonly SentFile[]): string | undefined =>
  (
    came.find((f) => f.path === path) ??
    came.find((f) => f.part === 'texture' && withoutEnding(f.path) === withoutEnding(path))
  )?.path

const withoutEnding = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1) + fileStem(path)
