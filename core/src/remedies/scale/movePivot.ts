import type { Accessor, Document, Node } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, pivotKinds } from '@stern-gate/contract'
import { nearestPivot } from '../../geometry/pivotPoints'
import { finestBounds } from '../../measure/partsOfDocument'
import { formatLength } from '../../numbers/formatNumber'
import { nodePaths, shownNodes } from '../../scene/nodePaths'
import { floatsOf } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'

type Vector = [number, number, number]

export const movePivot = defineRemedy({
  id: 'scale/move-pivot',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Move the pivot',
  words: ({ to }) => `Pivot to ${to.replace('-', ' ')}`,
  about:
    'Moves the whole asset so that a point of level 0, or the origin of a named node, stands at the ' +
    'origin. Levels and collision go along; shapes and clips stay as they are.',
  options: z.strictObject({
    to: z
      .enum([...pivotKinds, 'node'])
      .describe('point of level 0 that becomes the origin, or that of a node'),
    node: z
      .string()
      .nullable()
      .default(null)
      .describe('path of the node, where one is meant')
      .meta({ names: 'node' }),
  }),
  async apply(work, { to, node: path }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no pivot' })
    const bounds = finestBounds(work.document)
    if (!bounds) return good({ changed: false, said: 'there is nothing to measure the pivot by' })
    const spot = to === 'node' ? originOf(work.document, path) : nearestPivot(bounds, to)
    if (!spot)
      return bad('remedy/not-applicable', `No node is called ${path ?? ''}.`, 'Choose a node of the asset.', {
        node: path ?? '',
      })
    const { point, distance } = spot
    if (distance < 1e-6) return good({ changed: false, said: 'the pivot stands there already' })
    moveDocument(work.document, point.map((v) => -v) as Vector)
    return good({ changed: true, said: `moved by ${formatLength(distance)}` })
  },
})

/** Where a node stands in the world; a name alone will do. */
function originOf(document: Document, path: string | null): { point: Vector; distance: number } | null {
  const paths = [...nodePaths(document)]
  const node = (paths.find(([, own]) => own === path) ?? paths.find(([n]) => n.getName() === path))?.[0]
  if (!node) return null
  const point = node.getWorldTranslation() as Vector
  return { point, distance: Math.hypot(...point) }
}

/** Edits in place: shifts the shown scene by a vector in metres. */
export function moveDocument(document: Document, by: Vector): void {
  const moved = animatedTranslations(document)
  const shifted = new Set<Accessor>()
  for (const node of shownNodes(document)) {
    const tracks = moved.get(node) ?? []
    if (tracks.length === 0 && shiftsInside(document, node)) shiftInside(node, by)
    else node.setTranslation(node.getTranslation().map((v, i) => v + by[i]!) as Vector)
    for (const track of tracks)
      if (!shifted.has(track.values)) {
        shifted.add(track.values)
        shiftTrack(track, by)
      }
  }
}

interface Track {
  values: Accessor
  cubic: boolean
}

function animatedTranslations(document: Document): Map<Node, Track[]> {
  const found = new Map<Node, Track[]>()
  for (const animation of document.getRoot().listAnimations())
    for (const channel of animation.listChannels()) {
      const node = channel.getTargetNode(),
        sampler = channel.getSampler(),
        values = sampler?.getOutput()
      if (channel.getTargetPath() !== 'translation' || !node || !values) continue
      found.set(node, [
        ...(found.get(node) ?? []),
        { values, cubic: sampler!.getInterpolation() === 'CUBICSPLINE' },
      ])
    }
  return found
}

/** In cubic tracks only the middle of each three is a value; the others are tangents. */
function shiftTrack({ values, cubic }: Track, by: Vector): void {
  const array = floatsOf(values).slice()
  for (let k = 0, element = 0; k + 2 < array.length; k += 3, element++)
    if (!cubic || element % 3 === 1) for (let i = 0; i < 3; i++) array[k + i]! += by[i]!
  values.setNormalized(false).setArray(array)
}

/**
 * A root that stands square and owns its points alone can keep its own transform at zero: the points move
 * instead.
 */
function shiftsInside(document: Document, node: Node): boolean {
  const mesh = node.getMesh()
  const [x, y, z] = node.getRotation(),
    [sx, sy, sz] = node.getScale()
  const square = Math.abs(x) + Math.abs(y) + Math.abs(z) < 1e-9 && sx === 1 && sy === 1 && sz === 1
  if (!mesh || !square || node.getSkin()) return false
  const owners = document
    .getRoot()
    .listNodes()
    .filter((n) => n.getMesh() === mesh)
  if (owners.length > 1) return false
  const positions = mesh.listPrimitives().map((p) => p.getAttribute('POSITION'))
  const others = document
    .getRoot()
    .listMeshes()
    .filter((m) => m !== mesh)
    .flatMap((m) => m.listPrimitives())
    .map((p) => p.getAttribute('POSITION'))
  return positions.every((p) => p !== null && p.getArray() instanceof Float32Array && !others.includes(p))
}

/** Takes the node's own translation along, so that the node ends at the origin. */
function shiftInside(node: Node, by: Vector): void {
  const offset = node.getTranslation().map((v, i) => v + by[i]!) as Vector
  for (const accessor of new Set(
    node
      .getMesh()!
      .listPrimitives()
      .map((p) => p.getAttribute('POSITION')!),
  )) {
    const points = (accessor.getArray() as Float32Array).slice()
    for (let k = 0; k + 2 < points.length; k += 3) for (let i = 0; i < 3; i++) points[k + i]! += offset[i]!
    accessor.setArray(points)
  }
  for (const child of node.listChildren())
    child.setTranslation(child.getTranslation().map((v, i) => v + offset[i]!) as Vector)
  node.setTranslation([0, 0, 0])
}
