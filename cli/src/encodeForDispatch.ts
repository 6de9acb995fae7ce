import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import {
  good,
  type EncodingFacts,
  type EncodingPlan,
  type Outcome,
  type PackagedAsset,
} from '@stern-gate/contract'
import { noteEncoded } from '@stern-gate/core'
import {
  sha256,
  type Engine,
  type PackageEntry,
  type TextureToEncode,
  type WantedEncoding,
} from '@stern-gate/engine'

/** What one asset of a package wants encoded. */
export interface AssetEncodings {
  asset: PackagedAsset
  wanted: readonly WantedEncoding[]
  /** Where a file of the asset lies on the disk, and in the package. */
  placeOf: (path: string) => { file: string; packed: string } | undefined
}

/**
 * Encodes textures for a package, each beside its source, into a folder of its own until they are packed. Notes in the
 * assets what came of it, also what could not be encoded. `show` is told before each.
 */
export async function encodeForDispatch(
  engine: Engine,
  folder: string,
  all: readonly AssetEncodings[],
  show: (done: number, of: number, path: string) => void,
): Promise<PackageEntry[]> {
  const entries: PackageEntry[] = [],
    of = all.reduce((sum, a) => sum + a.wanted.length, 0),
    // Assets may share a texture: it is encoded once
    known = new Map<string, Outcome<EncodedFor>>()
  let done = 0
  for (const { asset, wanted, placeOf } of all) {
    const taken = new Set(asset.files.map((f) => f.path.toLowerCase()))
    for (const { path, name, plan, cells } of wanted) {
      show(done++, of, name)
      const place = path === null ? undefined : placeOf(path)
      if (!place) {
        asset.notEncoded.push({ of: name, why: 'It stands inside the mesh: take it out of the file first.' })
        continue
      }
      const key = `${place.file} ${JSON.stringify([plan, cells])}`
      const made =
        known.get(key) ?? (await encodedInto(folder, engine, { file: place.file, path: path!, cells }, plan))
      known.set(key, made)
      if (!made.ok) {
        asset.notEncoded.push({ of: place.packed, why: made.fault.why })
        continue
      }
      const { file, facts, hash } = made.value
      const packed = noteEncoded(asset, { source: place.packed, name }, { plan, facts, sha256: hash }, taken)
      entries.push({ path: packed, file })
    }
  }
  return entries
}

/** An encoded texture that lies in a file; its bytes are not held. */
interface EncodedFor {
  file: string
  hash: string
  facts: EncodingFacts
}

async function encodedInto(
  folder: string,
  engine: Engine,
  source: TextureToEncode,
  plan: EncodingPlan,
): Promise<Outcome<EncodedFor>> {
  const made = await engine.encode(source, plan)
  if (!made.ok) return made
  const hash = sha256(made.value.file),
    file = join(folder, hash)
  await writeFile(file, made.value.file)
  return good({ file, hash, facts: made.value.facts })
}
