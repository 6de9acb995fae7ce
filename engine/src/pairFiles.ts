import type { Pairing, PairingProblem, Rulebook } from '@stern-gate/contract'
import {
  assembleAssets,
  buildSubject,
  pairDelivery,
  pairingProblem,
  type AssetDraft,
  type MeasuredFile,
  type PairedAsset,
} from '@stern-gate/core'

/** Files of a folder as assets, with what feeds what. */
export interface PairedFiles {
  drafts: AssetDraft[]
  /** In the order of the drafts. */
  assets: PairedAsset[]
  problem: PairingProblem
  pairing: Pairing
}

/** Puts measured files together to assets, and pairs their slots with their textures. */
export function pairFiles(
  measured: readonly MeasuredFile[],
  rulebook: Rulebook,
  target: string,
): PairedFiles {
  const byPath = new Map(measured.map((m) => [m.path, m]))
  const drafts = assembleAssets(measured, rulebook)
  const assets = drafts.map((draft) => ({
    id: null,
    subject: buildSubject(
      draft,
      draft.files.map((f) => byPath.get(f.path)!),
      { rulebook, targetName: target, classChoice: null, taken: new Set(), family: null },
    ),
  }))
  const problem = pairingProblem(assets)
  return { drafts, assets, problem, pairing: pairDelivery(problem, rulebook) }
}
