import { faultSchema } from '@stern-gate/contract'
import type { FileKind, MeasuredFile } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findFacts, type FactsRow } from '../store/factsStore'

interface KnownFile { path: string; sha256: string | null; sizeBytes: number; kind: string; fault: unknown; factsKey: string | null }

export interface MeasuredSet { files: MeasuredFile[]; facts: Map<string, FactsRow> }

/** Puts file rows and their kept facts together, as the rules' side wants them. */
export async function measuredFiles(db: Queryable, rows: readonly KnownFile[]): Promise<MeasuredSet> {
  const facts = await findFacts(db, rows.flatMap((r) => r.factsKey ?? []))
  const files = rows.map((row): MeasuredFile => {
    const kept = row.factsKey === null ? undefined : facts.get(row.factsKey)?.kept
    return {
      path: row.path, sha256: row.sha256 ?? '', sizeBytes: row.sizeBytes, kind: (kept?.kind ?? row.kind) as FileKind,
      facts: kept?.facts ?? null, embedded: kept?.embedded ?? {},
      fault: row.fault === null ? (kept?.fault ?? null) : faultSchema.parse(row.fault),
    }
  })
  return { files, facts }
}
