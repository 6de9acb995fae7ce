import type { Document, Node } from '@gltf-transform/core'
import type { MeshFacts, NodeFacts } from '@stern-gate/contract'
import type { Hull } from '../geometry/convexHull'
import { linearDeterminant } from '../geometry/matrix'
import { joinBounds } from '../geometry/pointBounds'
import { quadSample } from '../geometry/quadSample'
import { supportOf } from '../geometry/supportDirections'
import { saidLevels, switchCoverages } from '../read/lodExtension'
import { nodePaths } from '../scene/nodePaths'
import { slotNames } from '../scene/slotNames'
import type { AddEvidence } from './evidence'
import { countTopology, type CountTopology } from './countTopology'
import { findCopies } from './findCopies'
import { measureChain } from './measureChain'
import { measureDecals } from './measureDecals'
import { measurePrimitive } from './measurePrimitive'
import { partsOfMesh } from '../scene/meshParts'
import { measureFit, measureHulls, measureShape, type ShellHulls } from './measureShape'
import { measureSheets } from './measureSheets'
import { measureTopology } from './measureTopology'
import { cornersOf, hashedSurface, placeMesh, type PlacedMesh } from './placedMesh'
import { movedNodes } from '../scene/movedNodes'

/**
 * Parts of measuring that may be left out, for the benchmarks time the rest without them, or be done
 * elsewhere.
 */
export interface MeasureSwitches {
  uvOverlap?: boolean
  topology?: CountTopology | undefined
}

const countHere: CountTopology = (input) => Promise.resolve(countTopology(input))

/** Measures every node of the shown scene, and the shape and collision fit of the whole. */
export async function measureNodes(
  document: Document,
  addEvidence: AddEvidence,
  { uvOverlap = true, topology = countHere }: MeasureSwitches = {},
): Promise<Pick<MeshFacts, 'shape' | 'fit' | 'decals' | 'chain' | 'quads'> & { nodes: NodeFacts[] }> {
  const slots = slotNames(document)
  const paths = nodePaths(document),
    said = saidLevels(document)
  const parts = partsOfMesh(
    [...paths].map(([node, path]) => ({
      path,
      name: node.getName(),
      mesh: node.getMesh()?.getName() ?? null,
      parent: parentOf(node, paths),
      level: said.get(node) ?? null,
      primitives: node.getMesh()?.listPrimitives() ?? [],
    })),
  )
  const collision = new Set(parts.collision.map((n) => n.path)),
    finest = new Set(parts.finest.map((n) => n.path))
  // Places are kept of every level only where there are several to compare
  const levelOf = new Map(
    parts.levels.size > 1 || switchCoverages(document)
      ? [...parts.levels].flatMap(([level, own]) => own.map((o) => [o.path, level]))
      : [],
  )
  const byLevel = new Map([...new Set(levelOf.values())].map((level) => [level, [] as PlacedMesh[]]))
  const moved = movedNodes(document)
  const joints = new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((s) => s.listJoints()),
  )
  const shown: PlacedMesh[] = [],
    solid: PlacedMesh[] = [],
    hulls: Hull[] = []
  const nodes: NodeFacts[] = []
  const copies = findCopies([...paths])
  for (const [node, path] of paths) {
    const placed = placeMesh(node, (primitive) => slots.get(primitive.getMaterial()!) ?? null)
    if (finest.has(path)) shown.push(placed)
    if (collision.has(path)) solid.push(placed)
    const measured = await measureNode(node, path, placed, {
      addEvidence,
      uvOverlap,
      topology,
      collision: collision.has(path),
      animated: moved.has(node),
      joint: joints.has(node),
    })
    if (measured.hulls) hulls.push(...measured.hulls.hulls)
    const level = levelOf.get(path)
    if (level !== undefined) byLevel.get(level)!.push(placed)
    nodes.push({
      ...measured.facts,
      parent: parentOf(node, paths),
      level: said.get(node) ?? null,
      copyOf: copies.get(path) ?? null,
    })
  }
  const bounds = joinBounds(shown.map((m) => m.bounds))
  const shape = measureShape(shown, bounds)
  return {
    nodes,
    shape: shape.facts,
    fit: measureFit(shape.samples, bounds, hulls, { shown, solid }),
    decals: measureDecals(document, shown),
    chain: measureChain(document, byLevel),
    quads: bounds && quadSample(shown.map((mesh) => hashedSurface(mesh, bounds))),
  }
}

const parentOf = (node: Node, paths: Map<Node, string>): string | null =>
  node.getParentNode() ? (paths.get(node.getParentNode()!) ?? null) : null

interface NodeInput {
  addEvidence: AddEvidence
  uvOverlap: boolean
  topology: CountTopology
  collision: boolean
  animated: boolean
  joint: boolean
}

async function measureNode(
  node: Node,
  path: string,
  placed: PlacedMesh,
  { addEvidence, uvOverlap, topology: count, collision, animated, joint }: NodeInput,
): Promise<{ facts: Omit<NodeFacts, 'parent' | 'level' | 'copyOf'>; hulls: ShellHulls | null }> {
  const takeTopology = measureTopology(placed, path, addEvidence, count)
  const measured = placed.primitives.map((p, index) =>
    measurePrimitive(p, placed, { index, name: `${path}:${index}` }, addEvidence),
  )
  const sheets = uvOverlap ? measureSheets(placed, measured, path, addEvidence) : []
  const support = placed.bounds
    ? Array.from(supportOf(placed.places), (v) => (Number.isFinite(v) ? Number(v.toPrecision(7)) : 0))
    : []
  const topology = await takeTopology()
  const hulls =
    collision && topology ? measureHulls(placed, topology.shell, cornersOf(placed), topology.facts) : null
  const facts = {
    ...nodeTransform(node),
    path,
    name: node.getName(),
    mesh: node.getMesh()?.getName() ?? null,
    bounds: placed.bounds,
    skinned: node.getSkin() !== null,
    animated,
    joint,
    file: null,
    topology: topology?.facts ?? null,
    sheets,
    hull: hulls?.facts ?? null,
    support,
    primitives: measured.map((m) => m.facts),
  }
  return { facts, hulls }
}

function nodeTransform(node: Node): Pick<NodeFacts, 'translation' | 'scale' | 'rotation' | 'determinant'> {
  return {
    translation: finite(node.getTranslation()),
    scale: finite(node.getScale()),
    rotation: finite(node.getRotation()),
    determinant: finite([linearDeterminant(node.getWorldMatrix())] as [number])[0],
  }
}

/** JSON knows no NaN: a number that is none becomes 0. */
const finite = <T extends number[]>(values: T): T => values.map((v) => (Number.isFinite(v) ? v : 0)) as T
