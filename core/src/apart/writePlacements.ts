import type { Placement } from '@stern-gate/contract'

/** A part and where it stands, with what names the asset for whoever reads the placements. */
export interface PlacedPart {
  name: string
  /** Goes into the extras of each node: the asset's id, or its path where there is none. */
  asset: Readonly<Record<string, string>>
  placements: readonly Placement[]
}

/**
 * The placements of a scene as glTF 2.0: a node for each place, named after its part, with the asset in
 * `extras.asset`. There is no mesh in it: what stands there is the asset's own file.
 */
export function writePlacements(scene: string, parts: readonly PlacedPart[]): string {
  const nodes = parts.flatMap((part) =>
    part.placements.map(({ node, matrix }, i) => ({
      name: part.placements.length > 1 ? `${part.name}_${i + 1}` : part.name,
      ...(isIdentity(matrix) ? {} : { matrix: matrix.map(clean) }),
      extras: { asset: part.asset, node },
    })),
  )
  return `${JSON.stringify(
    {
      asset: { version: '2.0', generator: 'Stern Gate' },
      scene: 0,
      scenes: [{ name: scene, ...(nodes.length > 0 ? { nodes: nodes.map((_, i) => i) } : {}) }],
      ...(nodes.length > 0 ? { nodes } : {}),
    },
    null,
    2,
  )}\n`
}

const clean = (v: number): number => {
  const short = Number(v.toPrecision(9))
  return Math.abs(short) < 1e-12 ? 0 : short
}

const isIdentity = (m: readonly number[]): boolean => m.every((v, i) => v === (i % 5 === 0 ? 1 : 0))
