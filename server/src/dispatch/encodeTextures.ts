import type { PackagedAsset } from '@stern-gate/contract'
import { encodingPlanFor, noteEncoded, usedMask, type Subject } from '@stern-gate/core'
import type { PackageEntry } from '@stern-gate/engine'
import { keptEncoding } from '../judging/keptEncoding'
import type { JobServices } from '../services/services'

/**
 * Encodes the textures of a packed asset as its target asks, each beside its source; `placeOf` gives the path in the
 * package of a file of the asset. Notes in the asset what came of it, also what could not be encoded.
 */
export async function encodeTextures(
  services: JobServices,
  subject: Subject,
  asset: PackagedAsset,
  placeOf: (path: string) => string | undefined,
  signal: AbortSignal,
): Promise<PackageEntry[]> {
  const entries: PackageEntry[] = []
  const taken = new Set(asset.files.map((f) => f.path.toLowerCase()))
  for (const texture of subject.textures) {
    signal.throwIfAborted()
    const plan = encodingPlanFor(subject, texture)
    if (!plan || texture.sha256 === null) continue
    const place = texture.path === null ? undefined : placeOf(texture.path),
      of = place ?? texture.name
    const stored = {
      source: texture.sha256,
      path: texture.path ?? texture.name,
      used: usedMask(subject.mesh, texture.uses, texture.sha256),
    }
    const made = await keptEncoding(services, stored, plan, signal)
    if (!made.ok) {
      asset.notEncoded.push({ of, why: made.fault.why })
      continue
    }
    const { facts, file } = made.value
    const path = noteEncoded(
      asset,
      { source: place, name: texture.name },
      { plan, facts, sha256: file },
      taken,
    )
    entries.push({ path, file: services.store.localFile(file) })
  }
  return entries
}
