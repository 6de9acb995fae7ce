import type { Document, Texture } from '@gltf-transform/core'
import { invariant } from '@stern-gate/contract'
import { isUsed } from '../remedies/madeTextures'
import { findTexture, type Work } from '../remedies/work'
import { noteOfSlot, slotNotes } from '../scene/slotNotes'
import { giveDirections } from '../write/soundVectors'
import { relativePath } from '../write/relativePath'
import type { OutputFile } from './outputFile'
import { splitParts } from './splitParts'
import { writeSurfaceFiles } from './writeSurfaceFiles'
import { writeGlb, type PictureTarget } from '../write/writeGlb'

/**
 * Writes what a recipe made: the mesh as GLB, levels and hulls as files of their own where that was asked for, the
 * textures as files beside it or inside, as they arrived.
 */
export async function writeWork(work: Work): Promise<OutputFile[]> {
  for (const texture of work.textures)
    if (texture.spent && !isUsed(texture)) texture.pictures.forEach((p) => p.dispose())
  work.textures = work.textures.filter((t) => !t.spent || isUsed(t))
  const textures = work.textures.flatMap((t) =>
    t.path === null ? [] : [{ path: t.path, part: 'texture' as const, bytes: t.bytes }],
  )
  if (!work.document) return textures
  invariant(work.path, 'a mesh has a path')
  const path = work.path
  giveDirections(work.document)
  const targets = new Map<Texture, PictureTarget>()
  nameInputs(work, work.document, path)
  for (const { picture, asked } of work.missing) targets.set(picture, { uri: relativePath(path, asked) })
  for (const texture of work.textures)
    for (const picture of texture.pictures)
      targets.set(
        picture,
        texture.path === null ? { embed: texture.bytes } : { uri: relativePath(path, texture.path) },
      )
  const write = (document: Document, sourceOf: (picture: Texture) => Texture | undefined) =>
    writeGlb(document, (picture) => {
      const target = targets.get(sourceOf(picture)!)
      invariant(target, `picture ${picture.getName()} belongs to no texture`)
      return target
    })
  const surfaces = work.surfaceFiles ? writeSurfaceFiles(work, work.document, path, work.surfaceFiles) : []
  const parts: OutputFile[] = []
  for (const own of work.ownFiles ? splitParts(work.document, path, work.ownFiles) : []) {
    const bytes = await write(own.document, (picture) => own.sourceOf.get(picture))
    parts.push({ path: own.path, part: 'mesh', bytes })
  }
  const bytes = await write(work.document, (picture) => picture)
  return [{ path, part: 'mesh', bytes }, ...parts, ...textures, ...surfaces]
}

/** Inputs that glTF has not are noted with their slot by the name of their texture; it is put in as it is now. */
function nameInputs(work: Work, document: Document, path: string): void {
  for (const slot of document.getRoot().listMaterials()) {
    const { inputs } = slotNotes(slot)
    if (!inputs) continue
    const named = Object.entries(inputs).map(([role, name]) => {
      const texture = findTexture(work, name)
      return [role, texture?.path ? relativePath(path, texture.path) : (texture?.name ?? name)]
    })
    noteOfSlot(slot, { inputs: Object.fromEntries(named) })
  }
}

/**
 * The same mesh with every picture inside, for a viewer that fetches one file. Missing pictures are left out.
 */
export async function writeForStage(work: Work): Promise<Uint8Array | null> {
  if (!work.document) return null
  for (const { picture } of work.missing) picture.dispose()
  const bytesOf = new Map(work.textures.flatMap((t) => t.pictures.map((p) => [p, t.bytes] as const)))
  return writeGlb(work.document, (picture) => ({ embed: bytesOf.get(picture) ?? new Uint8Array(0) }))
}
