import type { Document, Scene } from '@gltf-transform/core'
import * as z from 'zod'
import { assetNotesSchema, nothingNoted, type AssetNotes } from '@stern-gate/contract'
import { shownNodes, shownScene } from './nodePaths'

/** Where notes of ours stand in the extras of the shown scene. */
const KEY = 'stern-gate'

const keptSchema = z.object({
  pivotMeant: assetNotesSchema.shape.pivotMeant.catch(false),
  channels: assetNotesSchema.shape.channels.catch([]),
})

/** What a file notes of the asset as a whole; a note that cannot be read counts as none. */
export function assetNotes(document: Document): AssetNotes {
  const kept = keptSchema.safeParse(shownScene(document)?.getExtras()[KEY] ?? {})
  return kept.success ? kept.data : nothingNoted
}

/** Adds to the notes of the asset; a file without a scene gets one. */
export function noteOfAsset(document: Document, notes: Partial<AssetNotes>): void {
  const scene = shownScene(document) ?? sceneOfAll(document)
  scene.setExtras({ ...scene.getExtras(), [KEY]: { ...assetNotes(document), ...notes } })
}

function sceneOfAll(document: Document): Scene {
  const roots = shownNodes(document),
    scene = document.createScene()
  for (const node of roots) scene.addChild(node)
  return scene
}
