import type { AssetDraft, MeasuredFile } from '@stern-gate/core'
import type { AssetRecord, VersionFileRecord, VersionRecord } from '../store/assets'
import type { Queryable } from '../store/database'
import type { OutputRecord } from '../store/outputs'
import { draftOf, draftOfOutput } from './drafts'
import { measuredFiles, withFacts, type KnownFacts } from './measuredFiles'

/** Files of one state of a version with their facts, as a subject is made of them. */
export interface LoadedState {
  draft: AssetDraft
  files: readonly MeasuredFile[]
}

/** What a version is made of, whichever state of it is asked for. */
export interface VersionParts {
  asset: AssetRecord
  version: VersionRecord
  files: readonly VersionFileRecord[]
}

/**
 * What arrived, or what a recipe made of it, with the kept facts: the one way from rows to what rules see. Facts
 * of the source that were read already are handed along.
 */
export async function loadState(
  db: Queryable,
  { asset, version, files }: VersionParts,
  output: OutputRecord | null,
  facts?: KnownFacts,
): Promise<LoadedState> {
  if (output) {
    const rows = output.files.map((f) => ({ ...f, fault: null }))
    return { draft: draftOfOutput(asset, version, output), files: (await measuredFiles(db, rows)).files }
  }
  return {
    draft: draftOf(asset, version, files),
    files: facts ? withFacts(files, facts) : (await measuredFiles(db, files)).files,
  }
}
