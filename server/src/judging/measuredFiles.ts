import { faultSchema, type FileKind } from '@stern-gate/contract'
import type { AssemblyFile, MeasuredFile } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findAssemblyFacts, findFacts, type FactsRow } from '../store/factsStore'

interface KnownFile {
  path: string
  sha256: string | null
  sizeBytes: number
  kind: string
  fault: unknown
  factsKey: string | null
}

export type KnownFacts = ReadonlyMap<string, FactsRow>
export interface MeasuredSet {
  files: MeasuredFile[]
  facts: KnownFacts
}

/** Puts file rows and their kept facts together, as the rules' side wants them. */
export async function measuredFiles(db: Queryable, rows: readonly KnownFile[]): Promise<MeasuredSet> {
  const facts = await findFacts(
    db,
    rows.flatMap((r) => r.factsKey ?? []),
  )
  return { files: withFacts(rows, facts), facts }
}

/** So many files are asked for at once. */
const AT_ONCE = 500

/** What the grouping of a delivery needs of its files. */
export async function filesToAssemble(db: Queryable, rows: readonly KnownFile[]): Promise<AssemblyFile[]> {
  const files: AssemblyFile[] = []
  for (let k = 0; k < rows.length; k += AT_ONCE) {
    const some = rows.slice(k, k + AT_ONCE),
      known = await findAssemblyFacts(
        db,
        some.flatMap((r) => r.factsKey ?? []),
      )
    for (const row of some) {
      const own = row.factsKey === null ? undefined : known.get(row.factsKey)
      files.push({ path: row.path, kind: (own?.kind ?? row.kind) as FileKind, facts: own?.facts ?? null })
    }
  }
  return files
}

/** The same with facts that were read before. */
export const withFacts = (rows: readonly KnownFile[], facts: KnownFacts): MeasuredFile[] =>
  rows.map((row) => {
    const known = row.factsKey === null ? undefined : facts.get(row.factsKey),
      kept = known?.kept
    return {
      path: row.path,
      sha256: row.sha256 ?? '',
      sizeBytes: row.sizeBytes,
      kind: (kept?.kind ?? row.kind) as FileKind,
      facts: kept?.facts ?? null,
      embedded: kept?.embedded ?? {},
      used: kept?.used ?? {},
      stored: kept?.stored ?? {},
      standard: known?.standard ?? null,
      fault: row.fault === null ? (kept?.fault ?? null) : faultSchema.parse(row.fault),
    }
  })
