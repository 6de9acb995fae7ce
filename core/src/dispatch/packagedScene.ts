import type { KeptPart, PackagedAsset, PackagedScene } from '@stern-gate/contract'
import { writePlacements } from '../apart/writePlacements'
import { relativePath } from '../write/relativePath'

/** Steps after which an asset no longer stands about the origin, in the size, that its placements were made for. */
const MOVES: ReadonlySet<string> = new Set([
  'scale/rescale',
  'scale/turn-axes',
  'scale/move-pivot',
  'scale/shift',
  'files/intake',
])

/** Whether a recipe leaves the origin and the size of an asset as they were; an intake does unless it says a unit or axes. */
function keepsPlace({ recipe, made }: PackagedAsset): boolean {
  return [...recipe, ...made]
    .filter(({ remedy }) => MOVES.has(remedy))
    .every(
      ({ remedy, options }) =>
        remedy === 'files/intake' &&
        (options['unit'] ?? 'as read') === 'as read' &&
        (options['up'] ?? '+Y') === '+Y' &&
        (options['front'] ?? '+Z') === '+Z',
    )
}

/**
 * The placements of a scene for a package: its parts that are in the package, each place with the path of the asset's
 * file beside it. An asset whose recipe moves or scales it says so: it has to be placed anew. Null where no part of
 * the scene is in the package.
 */
export function packagedScene(
  target: string,
  name: string,
  parts: readonly KeptPart[],
  assets: ReadonlyMap<string, PackagedAsset>,
): { scene: PackagedScene; text: string } | null {
  const there = parts.flatMap((part) => {
    const asset = part.left ? undefined : assets.get(part.name)
    return asset ? [{ part, asset }] : []
  })
  if (there.length === 0) return null
  const path = `${target}/scenes/${name.replace(/[<>:"/\\|?*\p{Cc}]/gu, '_')}.gltf`
  const text = writePlacements(
    name,
    there.map(({ part, asset }) => ({
      name: asset.name,
      asset: {
        ...(asset.id === null ? {} : { id: asset.id }),
        name: asset.name,
        file: relativePath(path, asset.main),
        ...(keepsPlace(asset) ? {} : { moved: 'its recipe moves or scales it: place it anew' }),
      },
      placements: part.placements,
    })),
  )
  return {
    scene: {
      name,
      path,
      assets: there.length,
      placements: there.reduce((sum, t) => sum + t.part.placements.length, 0),
    },
    text,
  }
}
