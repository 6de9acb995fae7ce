import { faultSchema } from '@stern-gate/contract'
import type { AssemblyFile, FileKind, MeasuredFile } from '@stern-gate/core'
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

/** So many files' facts are held at once. */
const AT_ONCE = 100

/** What the grouping of a delivery needs of its files: the facts of thousands are not held together. */
export async function filesToAssemble(db: Queryable, rows: readonly KnownFile[]): Promise<AssemblyFile[]> {
  const files: AssemblyFile[] = []
  for (let k = 0; k < rows.length; k += AT_ONCE)
    for (const { path, kind, facts } of (await measuredFiles(db, rows.slice(k, k + AT_ONCE))).files)
      files.push({ path, kind, facts: facts?.kind === 'mesh' ? { kind: 'mesh', file: { buffers: facts.file.buffers, companions: facts.file.companions, images: facts.file.images, generator: facts.file.generator } } : facts && { kind: 'texture' } })
  return files
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
