import type { Outcome } from '@stern-gate/contract'
import { good } from '@stern-gate/contract'
import { dataOfRecipe, outputIdentity, type ResolvedRecipe } from '@stern-gate/core'
import { findAmong, sha256, type AssetFiles, type MendedAsset } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import type { AssetRecord, VersionFileRecord, VersionRecord } from '../store/assets'
import { findFacts } from '../store/factsStore'
import {
  findOutput,
  saveMeasuredOutput,
  saveOutput,
  type OutputFileRecord,
  type OutputRecord,
} from '../store/outputs'
import { keepMeasurement } from './keepMeasurement'

/** Identity of an output: see outputIdentity. */
export const outputKey = (files: readonly VersionFileRecord[], recipe: ResolvedRecipe): string =>
  sha256(outputIdentity(files, recipe))

/** Files of a version where the engine finds them; refused ones are left out. */
export const engineFiles = (
  services: JobServices,
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
): AssetFiles => ({
  name: asset.name,
  assetKind: asset.kind,
  main: version.main,
  files: files.map((f) => ({
    path: f.path,
    part: f.part,
    file: services.store.localFile(f.sha256),
  })),
})

/** Whether the facts of a file are there to be used again. */
const isMeasured = (file: VersionFileRecord): boolean => file.factsKey !== null && file.fault === null

/**
 * Makes the output of a recipe, or finds it where it was made before, measured by the newest measures; that of a
 * preview has no thumbnail yet. Faults: of reading, of remedies.
 */
export async function makeOutput(
  services: JobServices,
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
  recipe: ResolvedRecipe,
  { signal, preview = false }: { signal?: AbortSignal | undefined; preview?: boolean } = {},
): Promise<Outcome<OutputRecord>> {
  const { db } = services.connection
  const key = outputKey(files, recipe)
  const known = await findOutput(db, key)
  if (known) return good(preview ? known : await measuredAnew(services, known, signal))
  const made = await services.engine.mend(engineFiles(services, asset, version, files), recipe, {
    ...(signal ? { signal } : {}),
    // Drawn once the step is kept: pointing at a remedy does not wait for it
    thumbnail: !preview,
    stepData: dataOfRecipe(recipe).map((sha256) => ({ sha256, file: services.store.localFile(sha256) })),
    known: files.filter((f) => f.part === 'texture' && isMeasured(f)).map((f) => f.sha256),
  })
  if (!made.ok) return made
  const output = await keepOutput(services, key, asset.name, made.value, files)
  await saveOutput(db, output)
  return good(output)
}

/** An output whose facts are of an older measure, or that was a preview, is measured again; its files stay. */
async function measuredAnew(
  services: JobServices,
  output: OutputRecord,
  signal?: AbortSignal,
): Promise<OutputRecord> {
  const { db } = services.connection
  const known = await findFacts(
    db,
    output.files.map((f) => f.factsKey),
  )
  const placed = output.files.map((f) => ({ ...f, file: services.store.localFile(f.sha256) }))
  const beside = findAmong(placed)
  let { thumbnail, evidence } = output
  for (const file of placed) {
    const isDrawn = thumbnail !== null || file.path !== output.main || file.part !== 'mesh'
    if (known.get(file.factsKey)?.fresh && isDrawn) continue
    const measured = await services.engine.measure(file, beside, signal ? { signal } : {})
    const kept = await keepMeasurement(services, measured, file.factsKey)
    if (file.path === output.main) ({ thumbnail, evidence } = kept)
  }
  if (thumbnail === output.thumbnail && evidence === output.evidence) return output
  await saveMeasuredOutput(db, { key: output.key, thumbnail, evidence })
  return { ...output, thumbnail, evidence }
}

async function keepOutput(
  services: JobServices,
  key: string,
  name: string,
  made: MendedAsset,
  source: readonly VersionFileRecord[],
): Promise<OutputRecord> {
  const files: OutputFileRecord[] = []
  let thumbnail: string | null = null,
    evidence: string | null = null
  for (const [i, file] of made.files.entries()) {
    const measurement = made.measurements[i]
    if (!measurement) {
      // As it came: stored and measured with its source
      const { path, sha256: hash, sizeBytes, kind, factsKey } = source.find((f) => f.path === file.path)!
      files.push({ path, part: file.part, sha256: hash, sizeBytes, kind, factsKey: factsKey! })
      continue
    }
    const stored = await services.store.putBytes(file.bytes)
    const kept = await keepMeasurement(services, measurement, stored.sha256)
    if (file.path === made.main) {
      thumbnail = kept.thumbnail
      evidence = kept.evidence
    }
    files.push({
      path: file.path,
      part: file.part,
      sha256: stored.sha256,
      sizeBytes: stored.sizeBytes,
      kind: measurement.measured.kind,
      factsKey: stored.sha256,
    })
  }
  return {
    key,
    renamed: made.name === name ? null : made.name,
    main: made.main,
    results: made.results,
    files,
    thumbnail,
    evidence,
  }
}
