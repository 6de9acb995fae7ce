import type { IslandFacts, MeshFacts, TextureFacts, UsedFacts } from '@stern-gate/contract'
import { CELLS, countCells, joinedCells } from '../geometry/cellMask'
import { hash53 } from '../numbers/hash53'
import { usingIslands, type TextureUse } from './islandsOfTexture'

/** Which part of a texture is used, where that is worth measuring by itself. */
export interface UsedMask {
  /** Of texture and islands: under it the figures are kept. */
  key: string
  /** Cells of the islands, packed. */
  cells: string[]
}

/** Above this share of the sheet the figures of the whole picture say the same. */
const MOST_USED = 0.9

/** Of the islands alone; the same lists are asked for again and again while rules are tried. */
const known = new WeakMap<IslandFacts, Map<string, { id: string; cells: string[] } | null>>()

/**
 * The part of a texture that islands use; null where it is not known, or where nearly all of it is used.
 */
export function usedMask(
  mesh: Pick<MeshFacts, 'slots' | 'islands'> | null,
  uses: readonly TextureUse[],
  sha256: string | null,
): UsedMask | null {
  const using = sha256 === null ? null : usingIslands(mesh, uses)
  if (!using || using.length === 0) return null
  const [first] = using,
    name = using.map((i) => `${i.slot} ${i.channel}`).join('\n')
  const masks = known.get(first!) ?? new Map<string, { id: string; cells: string[] } | null>()
  known.set(first!, masks)
  let mask = masks.get(name)
  if (mask === undefined) {
    const cells = [...new Set(using.map((i) => i.cells))].sort()
    const share = countCells(joinedCells(cells)) / (CELLS * CELLS)
    mask = share > MOST_USED || share === 0 ? null : { id: hash53(cells.join(' ')), cells }
    masks.set(name, mask)
  }
  return mask && { key: `${sha256}:${mask.id}`, cells: mask.cells }
}

/** The parts of a picture of a mesh file that are used, where it stands under any of several numbers. */
export function masksOfPicture(
  { slots, islands, file: { images } }: Pick<MeshFacts, 'slots' | 'islands' | 'file'>,
  sha256: string,
): UsedMask[] {
  const masks = new Map<string, UsedMask>()
  for (const image of images) {
    if (image.sha256 !== sha256) continue
    const uses = (slots ?? []).flatMap((slot) =>
      slot.textures
        .filter((t) => t.image === image.index)
        .map(({ field, channel }) => ({ slot: slot.name, field, channel })),
    )
    const mask = usedMask({ slots, islands }, uses, sha256)
    if (mask) masks.set(mask.key, mask)
  }
  return [...masks.values()]
}

/** The cells of a mask as bits, row by row from the top. */
export const cellsOfMask = ({ cells }: Pick<UsedMask, 'cells'>): Uint32Array => joinedCells(cells)

/** The facts of a texture with the figures over what is used, where these were measured. */
export function factsOverUsed(facts: TextureFacts, used: UsedFacts | null | undefined): TextureFacts {
  if (!used) return facts
  const { share, channels, normal, range, content } = used
  return { ...facts, channels, normal, range, content, used: share }
}
