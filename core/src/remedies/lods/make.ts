import type { Document, Node } from '@gltf-transform/core'
import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { formatCount } from '../../numbers/formatNumber'
import { baseName } from '../../scene/meshParts'
import { joinBounds, longestSide, pointBounds } from '../../geometry/pointBounds'
import { deviationFrom, type LevelSurface } from '../../geometry/surfaceDeviation'
import { placeMesh, trianglesOf } from '../../measure/placedMesh'
import { defineRemedy } from '../defineRemedy'
import { reducePrimitive, trianglesIn } from '../mesh/reduceTriangles'
import { movedNodes } from '../../scene/movedNodes'

export const makeLevels = defineRemedy({
  id: 'lods/make',
  version: 1,
  isSlow: true,
  station: 'lods',
  needs: 'mesh',
  title: 'Make levels',
  words: ({ levels, ratio, metres }) =>
    metres.length === 0
      ? `${levels} ${levels === 1 ? 'level' : 'levels'} × ${ratio}`
      : `Levels within ${metres.join(', ')} m`,
  about:
    'Makes coarser levels of the finest one by taking triangles out where the surface changes ' +
    'least (edge collapse by quadric error, weighed with normals and UVs). Slots, UVs, weights, ' +
    'colours and textures are kept and shared; a level that comes out hardly coarser is left out. ' +
    'Names end in _lod1, _lod2 …',
  options: z.strictObject({
    levels: z.int().min(1).max(6).default(3).describe('levels that are made besides the finest'),
    ratio: z
      .number()
      .min(0.05)
      .max(0.9)
      .default(0.5)
      .describe('triangles of each level, of those of the one before'),
    error: z
      .number()
      .min(0)
      .max(1)
      .default(0.1)
      .describe('how far the surface may move on the coarsest, as a share of the size of a part'),
    metres: z
      .array(z.number().min(0))
      .max(6)
      .default([])
      .describe(
        'the most that each level may lie off the finest, in metres, measured: as few triangles as that allows; ' +
          'none: by the ratio',
      ),
  }),
  async apply(work, { levels, ratio, error, metres }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no levels' })
    await MeshoptSimplifier.ready
    const parts = partsOfDocument(work.document)
    if (parts.levels.size > 1) return good({ changed: false, said: 'there are levels already' })
    const moved = movedNodes(work.document)
    if (parts.finest.some(({ node }) => moved.has(node)))
      return bad(
        'remedy/not-applicable',
        'A clip moves a part by itself: a level of it would stand still.',
        'Hang the part under a node that the clip moves, where it was made.',
      )
    const made =
      metres.length > 0
        ? levelsWithin(work.document, parts.finest, metres)
        : madeLevels(work.document, parts.finest, { levels, ratio, error })
    return made.ok
      ? good({ changed: true, said: made.value.map((n, i) => `LOD ${i + 1}: ${formatCount(n)}`).join(', ') })
      : made
  },
})

/** A level of more triangles than this share of the one before saves too little. */
const HARDLY_COARSER = 0.85

/** Triangles of each level that was made. */
function madeLevels(
  document: Document,
  finest: readonly DocumentNode[],
  { levels, ratio, error }: { levels: number; ratio: number; error: number },
): Outcome<number[]> {
  const made: number[] = []
  let before = finest.reduce((sum, n) => sum + trianglesIn(n.primitives), 0)
  for (let level = 1; level <= levels; level++) {
    const share = ratio ** level
    const copies = finest.map(({ node }) => copyOf(document, node, made.length + 1))
    for (const copy of copies)
      for (const primitive of copy.getMesh()!.listPrimitives())
        reducePrimitive(document, primitive, share, (error * level) / levels)
    const triangles = copies.reduce((sum, c) => sum + trianglesIn(c.getMesh()!.listPrimitives()), 0)
    if (triangles > before * HARDLY_COARSER) {
      for (const copy of copies) dropCopy(copy)
      break
    }
    made.push(triangles)
    before = triangles
  }
  return made.length > 0 ? good(made) : nothingCanGo
}

const nothingCanGo = bad(
  'remedy/not-applicable',
  'Nothing can go without moving the surface too far.',
  'Allow a greater error, or make the levels where the mesh was made.',
)

/** So often a level is made anew with another error, until it lies as far off as it may and no further. */
const TRIES = 7
/** Samples on each surface while a level is tried. */
const SAMPLES = 4096
/** A level within a distance is made only where it has no more than this share of the one before. */
const A_STEP = 0.6
/** Another set of samples may meet a place that is a little further off. */
const MARGIN = 0.97
/** A level that uses so much of what is allowed is not tried again. */
const NEAR_ENOUGH = 0.85

/**
 * Levels of as few triangles as the allowed distances leave, each measured against the finest. One that comes out
 * hardly coarser than the one before is left out.
 */
function levelsWithin(
  document: Document,
  finest: readonly DocumentNode[],
  allowed: readonly number[],
): Outcome<number[]> {
  const fine = surfaceOf(finest.map(({ node }) => node))
  const deviationOf = deviationFrom(fine),
    bounds = joinBounds(fine.parts.map((p) => pointBounds(p.positions))),
    size = bounds ? longestSide(bounds) : 1
  const made: number[] = []
  let before = finest.reduce((sum, n) => sum + trianglesIn(n.primitives), 0)
  for (const most of allowed) {
    const level = levelWithin(document, finest, made.length + 1, most, { deviationOf, size })
    const triangles = level ? trianglesOfAll(level) : Infinity
    if (!level || triangles > before * A_STEP) {
      level?.forEach(dropCopy)
      continue
    }
    made.push(triangles)
    before = triangles
  }
  return made.length > 0 ? good(made) : nothingCanGo
}

interface Measuring {
  deviationOf: ReturnType<typeof deviationFrom>
  /** Longest side of the finest, metres. */
  size: number
}

/** The coarsest copies that lie no further off than is allowed; null where none does. */
function levelWithin(
  document: Document,
  finest: readonly DocumentNode[],
  level: number,
  most: number,
  { deviationOf, size }: Measuring,
): Node[] | null {
  let error = Math.min(1, most / size),
    least = 0,
    best: Node[] | null = null
  let greatest = Infinity
  for (let n = 0; n < TRIES; n++) {
    const copies = finest.map(({ node }) => copyOf(document, node, level))
    for (const copy of copies)
      for (const primitive of copy.getMesh()!.listPrimitives()) reducePrimitive(document, primitive, 0, error)
    const off = deviationOf(surfaceOf(copies), SAMPLES)?.most ?? Infinity
    if (off > most * MARGIN) {
      copies.forEach(dropCopy)
      greatest = error
    } else {
      best?.forEach(dropCopy)
      best = copies
      least = error
      if (off >= most * NEAR_ENOUGH) break
    }
    const next = greatest === Infinity ? Math.min(1, error * 2) : (least + greatest) / 2
    if (next === error) break
    error = next
  }
  return best
}

const trianglesOfAll = (nodes: readonly Node[]): number =>
  nodes.reduce((sum, n) => sum + trianglesIn(n.getMesh()!.listPrimitives()), 0)

const surfaceOf = (nodes: readonly Node[]): LevelSurface => ({
  parts: trianglesOf(nodes.map((node) => placeMesh(node, () => null))),
})

/** A node beside another that draws a copy of its mesh; slots and attributes are shared until they change. */
function copyOf(document: Document, node: Node, level: number): Node {
  const name = `${baseName(node.getName())}_lod${level}`
  const mesh = node.getMesh()!
  const copy = document.createMesh(name)
  for (const primitive of mesh.listPrimitives()) copy.addPrimitive(primitive.clone())
  const beside = document
    .createNode(name)
    .setMesh(copy)
    .setSkin(node.getSkin())
    .setTranslation(node.getTranslation())
    .setRotation(node.getRotation())
    .setScale(node.getScale())
  const parent = node.getParentNode()
  if (parent) parent.addChild(beside)
  else
    for (const scene of document.getRoot().listScenes())
      if (scene.listChildren().includes(node)) scene.addChild(beside)
  return beside
}

function dropCopy(copy: Node): void {
  const mesh = copy.getMesh()!
  for (const primitive of mesh.listPrimitives()) primitive.dispose()
  mesh.dispose()
  copy.dispose()
}
