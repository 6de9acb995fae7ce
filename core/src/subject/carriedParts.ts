import type { MeshFacts } from '@stern-gate/contract'
import type { PartsOfMesh } from '../scene/meshParts'

/** Parts of an asset that an export may come without. */
export const carriedKinds = ['clips', 'levels', 'collision', 'skin'] as const
export type CarriedPart = (typeof carriedKinds)[number]

/** What an asset carries besides its finest level. */
export interface CarriedParts {
  clips: string[]
  /** Nodes of collision. */
  collision: number
  levels: number
  skinned: boolean
  /** The version that had a part, where a later one lacked it and nobody has said what becomes of it. */
  since?: Partial<Record<CarriedPart, number>>
}

/** What an asset carries besides its finest level. */
export const carriedParts = ({
  mesh,
  parts,
}: {
  mesh: MeshFacts | null
  parts: PartsOfMesh
}): CarriedParts => ({
  clips: (mesh?.file.clips ?? []).map((c) => c.name),
  collision: parts.collision.length,
  levels: parts.levels.size,
  skinned: parts.drawn.some((n) => n.skinned),
})

/** A part that a version lacks, and the version that had it, as its open finding says. */
export interface OpenPart {
  part: CarriedPart
  version: number
}

/**
 * What a version carries, with what an `earlier` one carried of the parts that it lacks and that nobody has accepted
 * as gone: a third export is asked about them as the second was.
 */
export function withOpenParts(
  own: CarriedParts,
  earlier: CarriedParts | null,
  open: readonly OpenPart[],
): CarriedParts {
  if (!earlier || open.length === 0) return own
  const has = (part: CarriedPart): boolean => open.some((o) => o.part === part)
  return {
    clips: has('clips') ? [...new Set([...own.clips, ...earlier.clips])] : own.clips,
    collision: has('collision') ? Math.max(own.collision, earlier.collision) : own.collision,
    levels: has('levels') ? Math.max(own.levels, earlier.levels) : own.levels,
    skinned: own.skinned || (has('skin') && earlier.skinned),
    since: { ...own.since, ...Object.fromEntries(open.map(({ part, version }) => [part, version])) },
  }
}
