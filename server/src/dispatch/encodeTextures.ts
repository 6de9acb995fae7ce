import type { PackagedAsset } from '@stern-gate/contract'
import { encodingPlanFor, fileStem, type Subject } from '@stern-gate/core'
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
    const made = await keptEncoding(services, texture.sha256, texture.path ?? texture.name, plan, signal)
    if (!made.ok) {
      asset.notEncoded.push({ of, why: made.fault.why })
      continue
    }
    const { facts, file } = made.value
    const path = freePath(place ?? besideMain(asset, texture.name), taken)
    entries.push({ path, file: services.store.localFile(file) })
    asset.encoded.push({
      path,
      of,
      role: texture.role,
      format: plan.format,
      sha256: file,
      sizeBytes: facts.fileBytes,
      memoryBytes: facts.memoryBytes,
      psnr: facts.psnrAll,
      degrees: facts.angle?.mean ?? null,
    })
  }
  return entries
}

const besideMain = ({ main }: PackagedAsset, name: string): string =>
  main.slice(0, main.lastIndexOf('/') + 1) + name

/** The path with the extension of what is written, and a number where that is taken. */
function freePath(source: string, taken: Set<string>): string {
  const folder = source.slice(0, source.lastIndexOf('/') + 1),
    stem = fileStem(source)
  for (let n = 1; ; n++) {
    const path = `${folder}${stem}${n > 1 ? `_${n}` : ''}.ktx2`
    if (taken.has(path.toLowerCase())) continue
    taken.add(path.toLowerCase())
    return path
  }
}
