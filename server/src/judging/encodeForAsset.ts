import { activeSteps, bad, good, type Encoding, type EncodeRequest, type Outcome } from '@stern-gate/contract'
import type { SubjectTexture } from '@stern-gate/core'
import { sha256 } from '@stern-gate/engine'
import type { Services } from '../services/services'
import { findVersion, getRecipe, listVersionFiles, type AssetRecord } from '../store/assets'
import { findEncoding, listEncodings, saveEncoding, type EncodingRecord } from '../store/encodings'
import { findOutput } from '../store/outputs'
import { assetContext, subjectOf } from './assetContext'
import { loadState } from './loadState'
import { outputKey } from './makeOutput'
import { resolvedRecipe } from './resolvedRecipe'

/** Raised when encoding gives something else of the same texture and plan. */
const ENCODING_VERSION = 1

const keyOf = (source: string, plan: EncodeRequest['plan']): string =>
  sha256(new TextEncoder().encode(JSON.stringify([ENCODING_VERSION, source, plan])))

const replyOf = (texture: string, { facts, file, picture }: EncodingRecord): Encoding => ({
  texture,
  facts,
  file: `/api/blobs/${file}`,
  picture: `/api/blobs/${picture}`,
})

/** Textures of what the recipe made, or of what arrived while there is nothing made: nothing is judged for it. */
async function texturesOf({ connection: { db } }: Services, asset: AssetRecord): Promise<SubjectTexture[]> {
  const version = await findVersion(db, asset.id, asset.currentVersion)
  if (!version) return []
  const files = await listVersionFiles(db, version.id),
    { recipe } = await getRecipe(db, asset.id)
  const output =
    activeSteps(recipe).length > 0
      ? await findOutput(db, outputKey(files, await resolvedRecipe(db, asset.projectId, recipe)))
      : null
  const state = await loadState(db, { asset, version, files }, output)
  return subjectOf(await assetContext(db, asset.projectId), asset, state.draft, state.files).textures
}

/** Encodes a texture of an asset's output; the same source and plan only once. Faults: of reading, of the encoder. */
export async function encodeForAsset(
  services: Services,
  asset: AssetRecord,
  { texture: name, plan }: EncodeRequest,
  signal: AbortSignal,
): Promise<Outcome<Encoding>> {
  const { db } = services.connection
  const texture = (await texturesOf(services, asset)).find((t) => t.name === name)
  if (!texture?.sha256)
    return bad(
      'request/not-found',
      `The asset has no texture ${name} that came.`,
      'Choose one of its textures.',
    )
  const source = texture.sha256,
    key = keyOf(source, plan)
  const known = await findEncoding(db, key)
  if (known) return good(replyOf(name, known))
  const made = await services.engine.encode(services.store.localFile(source), texture.path ?? name, plan, {
    signal,
  })
  if (!made.ok) return made
  const [file, picture] = await Promise.all([
    services.store.putBytes(made.value.file),
    services.store.putBytes(made.value.picture),
  ])
  const record = { key, source, facts: made.value.facts, file: file.sha256, picture: picture.sha256 }
  await saveEncoding(db, record)
  return good(replyOf(name, record))
}

/** What was encoded of an asset's textures, or of one of them. */
export async function encodingsOf(
  services: Services,
  asset: AssetRecord,
  name: string | undefined,
): Promise<Encoding[]> {
  const wanted = (await texturesOf(services, asset)).filter(
    (t) => t.sha256 !== null && (name === undefined || t.name === name),
  )
  const names = new Map(wanted.map((t) => [t.sha256!, t.name]))
  const found = await listEncodings(services.connection.db, [...names.keys()])
  return found.map((record) => replyOf(names.get(record.source)!, record))
}
