import type { AssetState, MeshFacts } from '@stern-gate/contract'
import { row, type Rows } from './factRows'

/** Nodes of a level; without a number those of the first. */
export const levelNodes = (state: AssetState, level = state.levels[0]?.level) => {
  const paths = new Set(state.levels.find((l) => l.level === level)?.nodes ?? [])
  return (state.mesh?.nodes ?? []).filter((n) => paths.has(n.path))
}

export const topologyRows = (s: AssetState): Rows => {
  const t = levelNodes(s).flatMap((n) => (n.topology ? [n.topology] : []))
  const sum = (of: (x: (typeof t)[number]) => number): number => t.reduce((a, x) => a + of(x), 0)
  return t.length === 0
    ? []
    : [
        row(
          'Distinct positions',
          sum((x) => x.points),
        ),
        row(
          'Shells',
          sum((x) => x.shells),
        ),
        row(
          'Closed shells',
          sum((x) => x.closedShells),
        ),
        row(
          'Open edges',
          sum((x) => x.openEdges),
        ),
        row(
          'Boundary loops',
          sum((x) => x.borders),
        ),
        row(
          'Small holes',
          sum((x) => x.holes),
        ),
        row(
          'Tiny loose pieces',
          sum((x) => x.crumbs),
        ),
        row(
          'Duplicate triangles',
          sum((x) => x.duplicates),
        ),
        row(
          'Non-manifold edges',
          sum((x) => x.nonManifoldEdges),
        ),
        row(
          'Flipped faces',
          sum((x) => x.insideOut),
        ),
        row(
          'Unwelded vertices',
          sum((x) => x.near),
        ),
      ]
}

type Primitives = MeshFacts['nodes'] extends (infer N)[] | null
  ? N extends { primitives: infer P }
    ? P
    : never
  : never

/** Weighted by triangles: what the whole level costs. */
export const drawRows = (p: Primitives): Rows => {
  const cached = p.filter((x) => x.cache !== null),
    triangles = cached.reduce((a, x) => a + x.triangles, 0)
  const mean = (of: (x: NonNullable<Primitives[number]['cache']>) => number): string =>
    (cached.reduce((a, x) => a + of(x.cache!) * x.triangles, 0) / triangles).toFixed(2)
  return triangles === 0
    ? []
    : [
        row(
          'ACMR',
          mean((c) => c.acmr),
        ),
        row(
          'ATVR',
          mean((c) => c.atvr),
        ),
      ]
}

export const skinRows = (p: Primitives): Rows => {
  const skins = p.flatMap((x) => (x.skin ? [x.skin] : []))
  return skins.length === 0
    ? []
    : [
        row('Most influences per vertex', Math.max(...skins.map((s) => s.influences.length - 1))),
        row(
          'Unweighted vertices',
          skins.reduce((a, s) => a + (s.influences[0] ?? 0), 0),
        ),
        row(
          'Weights not summing to 1',
          skins.reduce((a, s) => a + s.notOne, 0),
        ),
      ]
}

export const colourRows = (p: Primitives): Rows => {
  const sets = Math.max(0, ...p.map((x) => x.colours.length))
  return Array.from({ length: sets }, (_, set) =>
    p.flatMap((x) => (x.colours[set] ? [x.colours[set]] : [])),
  ).flatMap((found, set) =>
    [...'RGBA']
      .slice(0, found[0]!.min.length)
      .map((channel, i) =>
        row(
          `${sets > 1 ? `${set} ` : ''}${channel}`,
          `${Math.min(...found.map((c) => c.min[i] ?? 0)).toFixed(2)} … ${Math.max(...found.map((c) => c.max[i] ?? 0)).toFixed(2)}`,
        ),
      ),
  )
}
