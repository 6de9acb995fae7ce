import type { EncodedFile, EncodingFacts, EncodingPlan, PackagedAsset } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'

/** What an encoded texture is made of, and where it goes. */
export interface EncodedPlace {
  /** Path of its source in the package; undefined while that stands inside the mesh. */
  source: string | undefined
  /** Name of the texture. */
  name: string
}

/**
 * Notes a texture that was encoded in its asset, beside its source or beside the mesh that holds it; `taken` has the
 * paths of the package in small letters, and gets this one. Gives its path. Edits the asset in place.
 */
export function noteEncoded(
  asset: PackagedAsset,
  { source, name }: EncodedPlace,
  { plan, facts, sha256 }: { plan: EncodingPlan; facts: EncodingFacts; sha256: string },
  taken: Set<string>,
): string {
  const path = freePath(source ?? besideMain(asset, name), taken)
  const file: EncodedFile = {
    path,
    of: source ?? name,
    role: plan.role,
    format: plan.format,
    sha256,
    sizeBytes: facts.fileBytes,
    memoryBytes: facts.memoryBytes,
    psnr: facts.psnrAll,
    degrees: facts.angle?.mean ?? null,
  }
  asset.encoded.push(file)
  return path
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
