import { good, type EncodingPlan, type Outcome } from '@stern-gate/contract'
import { sha256 } from '@stern-gate/engine'
import type { UsedMask } from '@stern-gate/core'
import type { JobServices } from '../services/services'
import { findEncoding, saveEncoding, type EncodingRecord } from '../store/encodings'

/**
 * Raised when encoding gives something else of the same texture and plan. What textures lose in a target's formats is
 * kept with their facts: raise the measure of textures, too.
 */
const ENCODING_VERSION = 2

/** A stored texture, by its hash, with the part of it that islands use: errors count there. */
export interface StoredTexture {
  source: string
  path: string
  used: UsedMask | null
}

/** Under it the result is kept: another pairing compares other texels. */
export const encodingKey = ({ source, used }: Omit<StoredTexture, 'path'>, plan: EncodingPlan): string =>
  sha256(new TextEncoder().encode(JSON.stringify([ENCODING_VERSION, source, plan, used?.key ?? null])))

/** A texture encoded by a plan; the same source, part and plan only once. Faults: of reading, of the encoder. */
export async function keptEncoding(
  { connection: { db }, engine, store }: Pick<JobServices, 'connection' | 'engine' | 'store'>,
  texture: StoredTexture,
  plan: EncodingPlan,
  signal: AbortSignal,
): Promise<Outcome<EncodingRecord>> {
  const key = encodingKey(texture, plan)
  const known = await findEncoding(db, key)
  if (known) return good(known)
  const { source, path, used } = texture
  const made = await engine.encode(
    { file: store.localFile(source), path, cells: used?.cells ?? null },
    plan,
    { signal },
  )
  if (!made.ok) return made
  const [file, picture] = await Promise.all([
    store.putBytes(made.value.file),
    store.putBytes(made.value.picture),
  ])
  const record = { key, source, facts: made.value.facts, file: file.sha256, picture: picture.sha256 }
  await saveEncoding(db, record)
  return good(record)
}
