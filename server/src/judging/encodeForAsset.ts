import type * as z from 'zod'
import {
  activeSteps,
  bad,
  good,
  type Encoding,
  type EncodeRequest,
  type FormatSearch,
  type Outcome,
  type searchRequestSchema,
} from '@stern-gate/contract'
import type { SubjectTexture } from '@stern-gate/core'
import type { Services } from '../services/services'
import { findVersion, getRecipe, listVersionFiles, type AssetRecord } from '../store/assets'
import { listEncodings, type EncodingRecord } from '../store/encodings'
import { findOutput } from '../store/outputs'
import { assetContext, subjectOf } from './assetContext'
import { keptEncoding } from './keptEncoding'
import { loadState } from './loadState'
import { outputKey } from './makeOutput'
import { resolvedRecipe } from './resolvedRecipe'

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

/** A texture of an asset that came, by its name. */
async function textureCalled(
  services: Services,
  asset: AssetRecord,
  name: string,
): Promise<Outcome<{ source: string; path: string }>> {
  const texture = (await texturesOf(services, asset)).find((t) => t.name === name)
  return texture?.sha256
    ? good({ source: texture.sha256, path: texture.path ?? name })
    : bad('request/not-found', `The asset has no texture ${name} that came.`, 'Choose one of its textures.')
}

/** Encodes a texture of an asset's output; the same source and plan only once. Faults: of reading, of the encoder. */
export async function encodeForAsset(
  services: Services,
  asset: AssetRecord,
  { texture: name, plan }: EncodeRequest,
  signal: AbortSignal,
): Promise<Outcome<Encoding>> {
  const found = await textureCalled(services, asset, name)
  if (!found.ok) return found
  const kept = await keptEncoding(services, found.value.source, found.value.path, plan, signal)
  return kept.ok ? good(replyOf(name, kept.value)) : kept
}

/** The smallest way to store a texture that holds what is wanted. Faults: of reading, of the encoder. */
export async function searchForAsset(
  services: Services,
  asset: AssetRecord,
  { texture: name, wish }: z.output<typeof searchRequestSchema>,
  signal: AbortSignal,
): Promise<Outcome<FormatSearch>> {
  const found = await textureCalled(services, asset, name)
  if (!found.ok) return found
  const { source, path } = found.value
  return services.engine.search(services.store.localFile(source), path, wish, { signal })
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
