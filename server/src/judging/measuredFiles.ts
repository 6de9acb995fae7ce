import { faultSchema } from '@stern-gate/contract'
import type { FileKind, MeasuredFile } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findFacts, type FactsRow } from '../store/factsStore'

interface KnownFile { path: string; sha256: string | null; sizeBytes: number; kind: string; fault: unknown; factsKey: string | null }

export type KnownFacts = ReadonlyMap<string, FactsRow>
export interface MeasuredSet { files: MeasuredFile[]; facts: KnownFacts }

/** Puts file rows and their kept facts together, as the rules' side wants them. */
export async function measuredFiles(db: Queryable, rows: readonly KnownFile[]): Promise<MeasuredSet> {
  const facts = await findFacts(db, rows.flatMap((r) => r.factsKey ?? []))
  return { files: withFacts(rows, facts), facts }
}

/** The same with facts that were read before. */
export const withFacts = (rows: readonly KnownFile[], facts: KnownFacts): MeasuredFile[] => rows.map((row) => {
  const kept = row.factsKey === null ? undefined : facts.get(row.factsKey)?.kept
  return {
    path: row.path, sha256: row.sha256 ?? '', sizeBytes: row.sizeBytes, kind: (kept?.kind ?? row.kind) as FileKind,
    facts: kept?.facts ?? null, embedded: kept?.embedded ?? {},
    fault: row.fault === null ? (kept?.fault ?? null) : faultSchema.parse(row.fault),
  }
})
