import { faultAt, type Fault, type Rulebook, type ScenePart, type ScenePlan } from '@stern-gate/contract'
import {
  fileStem,
  partsByPlan,
  takesApart,
  writePlacements,
  type MeasuredFile,
  type PieceFile,
  type TakenPart,
} from '@stern-gate/core'
import type { Engine } from './createEngine'
import type { FindBeside } from './findAmong'

/** A scene as it was taken apart. */
export interface SceneTakenApart {
  path: string
  plan: ScenePlan
  parts: TakenPart[]
  left: ScenePart[]
  files: PieceFile[]
}

/**
 * Takes a measured file apart where a plan says so; null where it is kept as one: it is no mesh, nothing was read,
 * or the plan makes one part of it. Faults: of reading, limits.
 */
export async function takeOneApart(
  engine: Pick<Engine, 'takeApart'>,
  { path, facts }: Pick<MeasuredFile, 'path' | 'facts'>,
  file: string,
  plan: ScenePlan,
  rulebook: Rulebook,
  beside: FindBeside,
): Promise<SceneTakenApart | { path: string; fault: Fault } | null> {
  if (facts?.kind !== 'mesh' || !facts.nodes) return null
  const scene = fileStem(path)
  if (!takesApart(facts.nodes, plan, scene, rulebook)) return null
  const { parts } = partsByPlan(facts.nodes, plan, scene, rulebook)
  const taken = await engine.takeApart({ path, file, nodes: facts.nodes.map(forApart), parts, plan }, beside)
  if (!taken.ok) return { path, fault: faultAt(taken.fault, { file: path }) }
  return {
    path,
    plan,
    parts: taken.value.parts,
    left: parts.filter((p) => p.left !== null),
    files: taken.value.files,
  }
}

/** What a worker needs of a node's facts; the rest is not copied to it. */
export const forApart = (
  n: NonNullable<Extract<MeasuredFile['facts'], { kind: 'mesh' }>['nodes']>[number],
) => ({
  path: n.path,
  name: n.name,
  parent: n.parent,
  mesh: n.mesh,
  translation: n.translation,
  rotation: n.rotation,
  scale: n.scale,
  bounds: n.bounds,
  copyOf: n.copyOf,
  primitives: n.primitives.map(({ triangles, vertices, slot }) => ({ triangles, vertices, slot })),
})

/** Where the parts of a scene stood, as glTF; `asset` says what names each of them. */
export const placementsOf = (
  { path, parts }: Pick<SceneTakenApart, 'path' | 'parts'>,
  asset: (part: TakenPart) => Record<string, string>,
): string =>
  writePlacements(
    fileStem(path),
    parts.map((p) => ({ name: p.part.name, asset: asset(p), placements: p.placements })),
  )
