import type { FileMeasurement } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { saveFacts, type FactsRow } from '../store/factsStore'

/** Keeps what was measured: facts as a row, evidence, thumbnail and inner pictures as blobs. */
export async function keepMeasurement(
  { connection, store }: Pick<JobServices, 'connection' | 'store'>,
  { measured, evidence, thumbnail, pictures }: FileMeasurement,
  key: string,
): Promise<FactsRow> {
  for (const picture of pictures) await store.putBytes(picture.bytes)
  const row: FactsRow = {
    key,
    fresh: true,
    standard: null,
    kept: {
      kind: measured.kind,
      facts: measured.facts,
      embedded: measured.embedded,
      fault: measured.fault,
      used: measured.used ?? {},
      stored: measured.stored ?? {},
    },
    evidence: evidence ? (await store.putBytes(evidence)).sha256 : null,
    thumbnail: thumbnail ? (await store.putBytes(thumbnail)).sha256 : null,
  }
  await saveFacts(connection.db, row)
  return row
}
