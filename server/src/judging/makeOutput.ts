import type { Outcome, Recipe } from '@stern-gate/contract'
import { good } from '@stern-gate/contract'
import { measureVersions, remedies } from '@stern-gate/core'
import { sha256, type AssetFiles, type MendedAsset } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import type { AssetRecord, VersionFileRecord, VersionRecord } from '../store/assets'
import { findOutput, saveOutput, type OutputFileRecord, type OutputRecord } from '../store/outputs'
import { keepMeasurement } from './keepMeasurement'

/** Steps that are switched on: only they make a difference. */
export const activeSteps = (recipe: Recipe): Recipe['steps'] => recipe.steps.filter((s) => s.on)

/** Identity of an output: source hashes, steps, and the versions of what measures and mends. */
export function outputKey(asset: AssetRecord, files: readonly VersionFileRecord[], recipe: Recipe): string {
  const steps = activeSteps(recipe).map(({ remedy, options }) => ({
    remedy,
    options: Object.fromEntries(Object.entries(options).sort()),
  }))
  return sha256(
    JSON.stringify({
      asset: asset.name,
      files: files.map((f) => [f.path, f.part, f.sha256]),
      steps,
      versions: [measureVersions, remedies.map((r) => r.id)],
    }),
  )
}

/** Files of a version where the engine finds them; refused ones are left out. */
export const engineFiles = (
  services: JobServices,
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
): AssetFiles => ({
  name: asset.name,
  assetKind: asset.kind as AssetFiles['assetKind'],
  main: version.main,
  files: files.map((f) => ({
    path: f.path,
    part: f.part as 'mesh' | 'buffer' | 'texture',
    file: services.store.localFile(f.sha256),
  })),
})

/** Makes the output of a recipe, or finds it where it was made before. Faults: of reading, of remedies. */
export async function makeOutput(
  services: JobServices,
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
  recipe: Recipe,
  signal?: AbortSignal,
): Promise<Outcome<OutputRecord>> {
  const { db } = services.connection
  const key = outputKey(asset, files, recipe)
  const known = await findOutput(db, key)
  if (known) return good(known)
  const made = await services.engine.mend(
    engineFiles(services, asset, version, files),
    recipe,
    signal ? { signal } : {},
  )
  if (!made.ok) return made
  const output = await keepOutput(services, key, made.value)
  await saveOutput(db, output)
  return good(output)
}

async function keepOutput(services: JobServices, key: string, made: MendedAsset): Promise<OutputRecord> {
  const files: OutputFileRecord[] = []
  let thumbnail: string | null = null,
    evidence: string | null = null
  for (const [i, file] of made.files.entries()) {
    const stored = await services.store.putBytes(file.bytes)
    const kept = await keepMeasurement(services, made.measurements[i]!, stored.sha256)
    if (file.path === made.main) {
      thumbnail = kept.thumbnail
      evidence = kept.evidence
    }
    files.push({
      path: file.path,
      part: file.part,
      sha256: stored.sha256,
      sizeBytes: stored.sizeBytes,
      kind: made.measurements[i]!.measured.kind,
      factsKey: stored.sha256,
    })
  }
  return { key, name: made.name, main: made.main, results: made.results, files, thumbnail, evidence }
}
