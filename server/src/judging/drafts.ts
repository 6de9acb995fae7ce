import type { AssetDraft } from '@stern-gate/core'
import type { AssetRecord, VersionFileRecord, VersionRecord } from '../store/assets'
import type { OutputRecord } from '../store/outputs'

/** The source of a version as a draft. */
export const draftOf = (
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
): AssetDraft => ({
  name: asset.name,
  kind: asset.kind,
  main: version.main,
  files: files.map((f) => ({ path: f.path, part: f.part })),
})

/** An output of a version as a draft. */
export const draftOfOutput = (
  asset: AssetRecord,
  version: Pick<VersionRecord, 'main'>,
  output: OutputRecord,
): AssetDraft => ({
  name: output.renamed ?? asset.name,
  kind: asset.kind,
  main: output.main,
  cameAs: version.main,
  files: output.files.map((f) => ({ path: f.path, part: f.part })),
})
