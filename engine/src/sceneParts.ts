import { good, type Outcome } from '@stern-gate/contract'
import {
  openMeshFile,
  readMesh,
  takeApart,
  type MeshSource,
  type Pixels,
  type TakenApart,
} from '@stern-gate/core'
import { sha256 } from './hashing'
import { encodePng } from './imagePorts'
import { libraryReaders } from './libraryReaders'
import { baseColourPictures, drawNodes } from './meshThumbnail'
import type { ApartTask, DrawPartsTask } from './tasks'

/** Pictures of parts stand in one file: so many beside one another, each so large. */
export const PARTS_A_ROW = 16
export const PART_PICTURE_SIZE = 64

type Find = (asked: string) => Uint8Array | null

async function openScene(path: string, bytes: Uint8Array, find: Find): Promise<Outcome<MeshSource>> {
  const opened = await openMeshFile(bytes, path, find, libraryReaders)
  return opened.ok
    ? readMesh(opened.value.container, opened.value.references, find, libraryReaders.draco)
    : opened
}

/** Writes the parts of a scene as files. Faults: of reading. */
export async function takeSceneApart(
  { path, nodes, parts, plan }: ApartTask,
  bytes: Uint8Array,
  find: Find,
): Promise<Outcome<TakenApart>> {
  const source = await openScene(path, bytes, find)
  return source.ok
    ? good(await takeApart({ path, source: source.value, nodes, parts, plan, hash: sha256 }))
    : source
}

/** Draws every part of a scene, one picture a square; a part that draws nothing leaves its square empty. */
export async function drawParts(
  { path, parts }: DrawPartsTask,
  bytes: Uint8Array,
  find: Find,
): Promise<Outcome<Uint8Array>> {
  const source = await openScene(path, bytes, find)
  if (!source.ok) return source
  const pictures = await baseColourPictures(source.value, find)
  const size = PART_PICTURE_SIZE,
    rows = Math.max(1, Math.ceil(parts.length / PARTS_A_ROW))
  const sheet: Pixels = {
    width: size * PARTS_A_ROW,
    height: size * rows,
    channels: 4,
    depth: 8,
    data: new Uint8Array(size * PARTS_A_ROW * size * rows * 4),
  }
  for (const [i, part] of parts.entries()) {
    const drawn = drawNodes(source.value, part.nodes, part.bounds, pictures, size)
    if (drawn) putSquare(sheet, drawn, (i % PARTS_A_ROW) * size, Math.floor(i / PARTS_A_ROW) * size)
  }
  return good(await encodePng(sheet))
}

function putSquare(sheet: Pixels, square: Pixels, left: number, top: number): void {
  for (let y = 0; y < square.height; y++)
    for (let x = 0; x < square.width; x++) {
      const from = (y * square.width + x) * square.channels,
        to = ((top + y) * sheet.width + left + x) * 4
      for (let c = 0; c < 4; c++) sheet.data[to + c] = c < square.channels ? square.data[from + c]! : 255
    }
}
