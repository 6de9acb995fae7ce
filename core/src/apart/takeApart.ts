import type { Placement, ScenePart, ScenePlan } from '@stern-gate/contract'
import { multiplyMatrices } from '../geometry/matrix'
import { fileStem } from '../read/deliveryPath'
import type { MeshSource } from '../read/readMesh'
import { nodePaths } from '../scene/nodePaths'
import { giveDirections } from '../write/soundVectors'
import { relativePath } from '../write/relativePath'
import { writeGlb, type PictureTarget } from '../write/writeGlb'
import { extractNodes } from './extractNodes'
import { moveBetween } from './foldCopies'
import { frameOf } from './partFrame'
import { pictureFiles, type PieceFile } from './pictureFiles'
import { sceneTree, type SceneNodeFacts } from './sceneTree'

/** A part as it was taken out, and the places where it stood. */
export interface TakenPart {
  part: ScenePart
  path: string
  placements: Placement[]
}

export interface TakenApart {
  parts: TakenPart[]
  files: PieceFile[]
}

export interface SceneToTakeApart {
  /** Path of the scene's file; pieces go into a folder of its name beside it. */
  path: string
  source: MeshSource
  nodes: readonly SceneNodeFacts[]
  parts: readonly ScenePart[]
  plan: Pick<ScenePlan, 'pivot'>
  hash: (bytes: Uint8Array) => string
}

/**
 * Writes each part of a scene that is not left out as a GLB of its own, with the slots, pictures, bones and clips
 * that are its own, in metres about its own origin. Pictures inside the scene become files, each once, that all
 * parts point at. The scene itself is not changed.
 */
export async function takeApart(scene: SceneToTakeApart): Promise<TakenApart> {
  const folder = scene.path.replace(/[^/]*$/, fileStem(scene.path))
  const { document } = scene.source
  const pictures = pictureFiles(scene.source, folder, scene.hash)
  const tree = sceneTree(scene.nodes)
  const paths = nodePaths(document)
  const parts: TakenPart[] = []
  const files: PieceFile[] = []
  const used = new Set<string>()
  for (const part of scene.parts) {
    if (part.left !== null) continue
    const path = `${folder}/${part.name}.glb`
    const groups = [part, ...part.copies].map(({ key, nodes }) => ({
      label: tree.byPath.get(key)!,
      nodes: nodes.map((n) => tree.byPath.get(n)!),
    }))
    const frame = frameOf(groups[0]!, part.bounds, scene.plan.pivot)
    const placements = groups.map((group) => ({
      node: group.label.path,
      matrix: [...multiplyMatrices(moveBetween(groups[0]!, group)!, frame)],
    }))
    const piece = extractNodes(document, paths, new Set(part.nodes), part.name, frame)
    giveDirections(piece.document)
    const bytes = await writeGlb(piece.document, (texture): PictureTarget => {
      const place = pictures.places[piece.pictures.get(texture)!]!
      used.add(place)
      return { uri: relativePath(path, place) }
    })
    parts.push({ part, path, placements })
    files.push({ path, part: 'mesh', bytes })
  }
  return { parts, files: [...files, ...pictures.files.filter((f) => used.has(f.path))] }
}
