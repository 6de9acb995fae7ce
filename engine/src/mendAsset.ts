import { libraryReaders } from './libraryReaders'
import type { Outcome, Recipe, StepResult } from '@stern-gate/contract'
import { good } from '@stern-gate/contract'
import {
  applyRecipe,
  openWork,
  resolveReference,
  writeForStage,
  writeWork,
  type CountTopology,
  type OutputFile,
  type RemedyPorts,
  type SourceFile,
} from '@stern-gate/core'
import { decodeImage, encodePng } from './imagePorts'
import { nothingBeside, type FileMeasurement } from './fileMeasurement'
import { sha256 } from './hashing'
import { measureFile } from './measureFile'

/** What a recipe made: its files, measured like any other, and one GLB for the stage. */
export interface MendedAsset {
  name: string
  main: string
  results: StepResult[]
  files: OutputFile[]
  /** In the order of the files; null: as it came, and measured before. */
  measurements: (FileMeasurement | null)[]
}

export interface AssetSource {
  name: string
  kind: 'mesh' | 'texture-set'
  main: string
  files: SourceFile[]
}

export interface MendOptions {
  /** Hashes of files that are measured already. */
  known?: ReadonlySet<string>
  thumbnail?: boolean
  topology?: CountTopology
  /** What steps keep outside their options. */
  stepData?: RemedyPorts['stepData']
}

/**
 * Applies a recipe to an asset's source and measures what comes out, but for files that are as they came and
 * whose hash is known. Faults: of reading, of remedies.
 */
export async function mendAsset(
  source: AssetSource,
  recipe: Recipe,
  { known = new Set(), thumbnail = true, topology, stepData = () => null }: MendOptions,
  progress: (doing: string) => void,
): Promise<Outcome<MendedAsset>> {
  progress('opening the source')
  const work = await openWork(source.name, source.kind, source.main, source.files, libraryReaders)
  if (!work.ok) return work
  progress('applying the recipe')
  const results = await applyRecipe(work.value, recipe, { decode: decodeImage, encodePng, stepData })
  if (!results.ok) return results
  progress('writing the output')
  const files = await writeWork(work.value)
  const paths = files.map((f) => f.path)
  const find = (asked: string) => {
    const found = resolveReference(asked, paths)
    return files.find((f) => f.path === found?.path)?.bytes ?? null
  }
  const came = new Set(source.files.map((f) => f.path))
  const measurements: (FileMeasurement | null)[] = []
  for (const { path, part, bytes } of files)
    measurements.push(
      known.size > 0 && came.has(path) && known.has(sha256(bytes))
        ? null
        : part === 'surface'
          ? surfaceMeasurement(path, bytes)
          : await measureFile(path, bytes, { find, progress, thumbnail, ...(topology ? { topology } : {}) }),
    )
  return good({
    name: work.value.name,
    main: work.value.path ?? files[0]?.path ?? source.main,
    results: results.value,
    files,
    measurements,
  })
}

/** Of a surface file nothing is measured: it says what the mesh beside it holds. */
const surfaceMeasurement = (path: string, bytes: Uint8Array): FileMeasurement => ({
  measured: {
    path,
    sha256: sha256(bytes),
    sizeBytes: bytes.length,
    kind: 'surface',
    facts: null,
    embedded: {},
    fault: null,
  },
  ...nothingBeside,
})

/** One GLB with every picture inside, for the stage; null for a texture set. */
export async function stageModel(source: AssetSource): Promise<Outcome<Uint8Array | null>> {
  const work = await openWork(source.name, source.kind, source.main, source.files, libraryReaders)
  return work.ok ? good(await writeForStage(work.value)) : work
}
