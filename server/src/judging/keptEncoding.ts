import { good, type EncodingPlan, type Outcome } from '@stern-gate/contract'
import { sha256 } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { findEncoding, saveEncoding, type EncodingRecord } from '../store/encodings'

/** Raised when encoding gives something else of the same texture and plan. */
const ENCODING_VERSION = 1

const keyOf = (source: string, plan: EncodingPlan): string =>
  sha256(new TextEncoder().encode(JSON.stringify([ENCODING_VERSION, source, plan])))

/** A texture encoded by a plan; the same source and plan only once. Faults: of reading, of the encoder. */
export async function keptEncoding(
  { connection: { db }, engine, store }: Pick<JobServices, 'connection' | 'engine' | 'store'>,
  source: string,
  name: string,
  plan: EncodingPlan,
  signal: AbortSignal,
): Promise<Outcome<EncodingRecord>> {
  const key = keyOf(source, plan)
  const known = await findEncoding(db, key)
  if (known) return good(known)
  const made = await engine.encode(store.localFile(source), name, plan, { signal })
  if (!made.ok) return made
  const [file, picture] = await Promise.all([
    store.putBytes(made.value.file),
    store.putBytes(made.value.picture),
  ])
  const record = { key, source, facts: made.value.facts, file: file.sha256, picture: picture.sha256 }
  await saveEncoding(db, record)
  return good(record)
}
