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
import { usedMask, type Subject } from '@stern-gate/core'
import type { Services } from '../services/services'
import { findVersion, getRecipe, listVersionFiles, type AssetRecord } from '../store/assets'
import { listEncodings, type EncodingRecord } from '../store/encodings'
import { findOutput } from '../store/outputs'
import { assetContext, subjectOf } from './assetContext'
import { encodingKey, keptEncoding, type StoredTexture } from './keptEncoding'
import { loadState } from './loadState'
import { outputKey } from './makeOutput'
import { resolvedRecipe } from './resolvedRecipe'

const replyOf = (texture: string, { facts, file, picture }: EncodingRecord): Encoding => ({
  texture,
  facts,
  file: `/api/blobs/${file}`,
  picture: `/api/blobs/${picture}`,
})

/** What the recipe made, or what arrived while there is nothing made: nothing is judged for it. */
async function shownState({ connection: { db } }: Services, asset: AssetRecord): Promise<Subject | null> {
  const version = await findVersion(db, asset.id, asset.currentVersion)
  if (!version) return null
  const files = await listVersionFiles(db, version.id),
    { recipe } = await getRecipe(db, asset.id)
  const output =
    activeSteps(recipe).length > 0
      ? await findOutput(db, outputKey(files, await resolvedRecipe(db, asset.projectId, recipe)))
      : null
  const state = await loadState(db, { asset, version, files }, output)
  return subjectOf(await assetContext(db, asset.projectId), asset, state.draft, state.files)
}

/** Textures of an asset that came, by name: all of them, or the one that is asked for. */
async function storedTextures(
  services: Services,
  asset: AssetRecord,
  wanted?: string,
): Promise<Map<string, StoredTexture>> {
  const subject = await shownState(services, asset)
  return new Map(
    (subject?.textures ?? []).flatMap(({ name, path, sha256, uses }) =>
      sha256 === null || (wanted !== undefined && name !== wanted)
        ? []
        : [
            [
              name,
              { source: sha256, path: path ?? name, used: usedMask(subject!.mesh, uses, sha256) },
            ] as const,
          ],
    ),
  )
}

async function textureCalled(
  services: Services,
  asset: AssetRecord,
  name: string,
): Promise<Outcome<StoredTexture>> {
  const texture = (await storedTextures(services, asset, name)).get(name)
  return texture
    ? good(texture)
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
  const kept = await keptEncoding(services, found.value, plan, signal)
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
  const { source, path, used } = found.value
  const texture = { file: services.store.localFile(source), path, cells: used?.cells ?? null }
  return services.engine.search(texture, wish, { signal })
}

/** What was encoded of an asset's textures, or of one of them, over the part that its islands use now. */
export async function encodingsOf(
  services: Services,
  asset: AssetRecord,
  name: string | undefined,
): Promise<Encoding[]> {
  const textures = await storedTextures(services, asset, name)
  const found = await listEncodings(
    services.connection.db,
    [...textures.values()].map((t) => t.source),
  )
  return [...textures].flatMap(([own, texture]) =>
    found.filter((e) => e.key === encodingKey(texture, e.facts.plan)).map((record) => replyOf(own, record)),
  )
}
