import type { Document, Node } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { claimedAir } from '../../geometry/claimedAir'
import { convexHull } from '../../geometry/convexHull'
import { cutHulls } from '../../geometry/cutHulls'
import { cylinderMesh, turnedBoxMesh } from '../../geometry/fittedShapes'
import { boxMesh, hullMesh, type HullMesh } from '../../geometry/hullMesh'
import { joinBounds, pointBounds } from '../../geometry/pointBounds'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { joinFloats, placeMesh, trianglesOf } from '../../measure/placedMesh'
import { primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'

const kinds = [
  'hull',
  'several hulls',
  'box',
  'turned box',
  'cylinder',
  'hull of each part',
  'box of each part',
  'best',
] as const
type Kind = (typeof kinds)[number]

export const makeCollision = defineRemedy({
  id: 'collision/make',
  version: 1,
  isSlow: true,
  station: 'collision',
  needs: 'mesh',
  title: 'Make collision',
  words: ({ kind }) => `Collision: ${kind}`,
  about:
    'Makes closed convex shapes around the finest level: one hull, box or upright cylinder around all of it, ' +
    'several hulls that lie closer – cut where that saves most air –, or one around each part. ' +
    'The best is the first of box, turned box, cylinder, hull and several hulls that claims no more air than allowed, ' +
    'else the one that claims least. ' +
    'They are named after the asset with _hull, wear no slot and have no UVs. ' +
    'Collision that is there is replaced.',
  options: z.strictObject({
    kind: z.enum(kinds).default('hull').describe('which shape'),
    corners: z.int().min(8).max(256).default(32).describe('corners of one hull at most'),
    shapes: z.int().min(2).max(64).default(8).describe('of several hulls: so many at most'),
    worth: z
      .number()
      .min(0.001)
      .max(0.5)
      .default(0.02)
      .describe('of several hulls: share of the volume that a further one has to save'),
    air: z
      .number()
      .min(0.01)
      .max(1)
      .default(0.3)
      .describe('of the best: share of it that may be air, which is reached from outside'),
  }),
  async apply(work, options) {
    if (!work.document) return good({ changed: false, said: 'a texture set collides with nothing' })
    const { finest, collision } = partsOfDocument(work.document)
    const best = options.kind === 'best' ? bestOf(finest, options) : null
    const shapes = best?.shapes ?? shapesOf(finest, options)
    if (shapes.length === 0)
      return bad(
        'remedy/not-applicable',
        'The surface is flat: no shape with a volume lies around it.',
        'Choose a box for each part, or make the collision by hand.',
      )
    for (const { node } of collision) dropShape(node)
    shapes.forEach((shape, i) => addShape(work.document!, nameOf(work.name, i, shapes.length), shape))
    const most = Math.max(...shapes.map((s) => s.positions.length / 3))
    return good({
      changed: true,
      said:
        `${shapes.length === 1 ? 'one shape' : `${shapes.length} shapes`} of up to ${most} corners` +
        (best ? `: ${best.said}` : ''),
    })
  },
})

interface Wish {
  kind: Kind
  corners: number
  shapes: number
  worth: number
  air: number
}

/** From the cheapest to ask for a hit to the dearest. */
const candidates = ['box', 'turned box', 'cylinder', 'hull', 'several hulls'] as const

/** The first candidate that claims no more air than is allowed, else the one that claims least. */
function bestOf(finest: readonly DocumentNode[], wish: Wish): { shapes: HullMesh[]; said: string } {
  const surface = surfaceOf(finest),
    bounds = joinBounds(surface.map((s) => pointBounds(s.positions)))
  let best: { kind: Kind; shapes: HullMesh[]; air: number } | null = null
  const tried: string[] = []
  for (const kind of candidates) {
    const shapes = shapesOf(finest, { ...wish, kind })
    const hulls = shapes.flatMap((s) => convexHull(s.positions) ?? [])
    const air = bounds && hulls.length > 0 ? claimedAir(surface, hulls, bounds) : null
    if (air === null) continue
    tried.push(`${kind} ${Math.round(air * 100)} % air`)
    if (!best || air < best.air) best = { kind, shapes, air }
    if (air <= wish.air) break
  }
  return { shapes: best?.shapes ?? [], said: best ? `${best.kind} of ${tried.join(', ')}` : '' }
}

const surfaceOf = (finest: readonly DocumentNode[]) =>
  trianglesOf(finest.map(({ node }) => placeMesh(node, () => null)))

const around: Partial<Record<Kind, (points: Float32Array) => HullMesh | null>> = {
  box: boxMesh,
  'box of each part': boxMesh,
  'turned box': turnedBoxMesh,
  cylinder: cylinderMesh,
}

function shapesOf(finest: readonly DocumentNode[], { kind, corners, shapes, worth }: Wish): HullMesh[] {
  if (kind === 'several hulls') {
    return cutHulls(surfaceOf(finest), { hulls: shapes, corners, worth })
  }
  const groups = kind.endsWith('of each part') ? finest.map((n) => [n]) : [finest]
  return groups.flatMap((nodes) => {
    const points = pointsOf(nodes)
    const fit = around[kind]
    return (fit ? fit(points) : hullMesh(points, corners)) ?? []
  })
}

const nameOf = (asset: string, i: number, count: number): string =>
  count === 1 ? `${asset}_hull` : `${asset}_hull${String(i + 1).padStart(2, '0')}`

/** Places of all vertices in the world; what is no number is left out. */
function pointsOf(nodes: readonly DocumentNode[]): Float32Array {
  const all = joinFloats(
    nodes.flatMap(({ node, primitives }) =>
      primitives.map((p) => worldPositions(node, p, primitiveView(p).positions)),
    ),
  )
  const kept: number[] = []
  for (let k = 0; k + 2 < all.length; k += 3)
    if (Number.isFinite(all[k]! + all[k + 1]! + all[k + 2]!)) kept.push(all[k]!, all[k + 1]!, all[k + 2]!)
  return Float32Array.from(kept)
}

function addShape(document: Document, name: string, { positions, indices }: HullMesh): void {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      document
        .createAccessor()
        .setType('VEC3')
        .setArray(positions as Float32Array<ArrayBuffer>)
        .setBuffer(buffer),
    )
    .setIndices(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(indices as Uint32Array<ArrayBuffer>)
        .setBuffer(buffer),
    )
  const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive))
  const [scene] = document.getRoot().listScenes()
  ;(document.getRoot().getDefaultScene() ?? scene ?? document.createScene()).addChild(node)
}

/** Takes a shape out, and its node where nothing hangs under it. */
function dropShape(node: Node): void {
  node.setMesh(null)
  if (node.listChildren().length === 0) node.dispose()
}
