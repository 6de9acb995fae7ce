import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good, type Outcome } from '@stern-gate/contract'
import type { RemedyResult } from '../defineRemedy'
import { assetNotes, noteOfAsset } from '../../scene/assetNotes'
import { inputTextures } from '../../scene/slotInputs'
import { channelOf, placeTexture } from '../../scene/texturePlacement'
import { meshesAt } from '../meshWork'
import type { Work } from '../work'

/** A UV channel as an option. */
export const uvChannel = z.int().min(0).max(7)

/**
 * Changes UV channels of the primitives at a node, or of all. `change` says whether it did something; `said` is told
 * how many parts it did, and is given only where there are some; `none` is said otherwise.
 */
export function changeChannels(
  work: Work,
  node: string | null,
  change: (primitive: Primitive) => boolean,
  { said, none }: { said: (parts: string) => string; none: string },
): Outcome<RemedyResult> & { changed: ReadonlySet<Primitive> } {
  const primitives = new Set(meshesAt(work, node).flatMap(({ mesh }) => mesh.listPrimitives()))
  const changed = new Set([...primitives].filter(change))
  const { size } = changed
  const done = !work.document
    ? { changed: false, said: 'a texture set has no UVs' }
    : size === 0
      ? { changed: false, said: none }
      : { changed: true, said: said(`${size} ${size === 1 ? 'part' : 'parts'}`) }
  return { ...good(done), changed }
}

/**
 * Slots that only changed parts wear read the channel that `now` gives for the one that they read; where all parts
 * changed, what is noted of the channels goes along. Edits in place.
 */
export function moveReadChannels(
  work: Work,
  changed: ReadonlySet<Primitive>,
  now: (read: number) => number,
): void {
  const root = work.document!.getRoot()
  const unchanged = root
    .listMeshes()
    .flatMap((m) => m.listPrimitives())
    .filter((p) => !changed.has(p))
  const others = new Set(unchanged.map((p) => p.getMaterial()))
  const noted = assetNotes(work.document!).channels
  if (unchanged.length === 0 && noted.length > 0)
    noteOfAsset(work.document!, { channels: noted.map((c) => ({ ...c, channel: now(c.channel) })) })
  for (const slot of root.listMaterials()) {
    if (others.has(slot)) continue
    for (const { info } of inputTextures(slot)) {
      const read = channelOf(info)
      if (now(read) !== read) placeTexture(work.document!, info, { channel: now(read) })
    }
  }
}
