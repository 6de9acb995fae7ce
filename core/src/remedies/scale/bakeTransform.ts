import type { Document, Mesh, Node, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import {
  cofactorMatrix,
  linearDeterminant,
  multiplyMatrices,
  multiplyTurns,
  transformPoints,
  turnVectors,
} from '../../geometry/matrix'
import { nodePaths } from '../../scene/nodePaths'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { ownAttributes, setTriangles } from '../meshWork'
import { movedNodes } from '../../scene/movedNodes'

export const bakeTransform = defineRemedy({
  id: 'scale/bake-transform',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Bake a transform',
  words: () => 'Bake transform',
  about:
    "Moves a node's scale and turn into its points, normals and tangents; its children stand where they " +
    'stood, and those that had no scale or turn get none by it. A node that draws nothing hands them on to ' +
    'what hangs on it. What is mirrored gets its winding turned, so that it looks as before. ' +
    'Nodes with a skin or a clip are left alone.',
  options: z.strictObject({
    node: nodeOption,
    which: z
      .enum(['scaled or turned', 'scaled', 'mirrored'])
      .default('scaled or turned')
      .describe('nodes that are baked where none is named'),
  }),
  async apply(work, { node: path, which }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no nodes' })
    const baking = { held: heldNodes(work.document), bakeMesh: meshBaker(work.document) }
    let baked = 0
    for (const [node, own] of nodePaths(work.document)) {
      if (
        (path === null ? !isOf(node, which) : own !== path) ||
        isPlain(node) ||
        !drawsAnything(node) ||
        !canBake(node, baking.held)
      )
        continue
      bakeNode(node, baking)
      baked++
    }
    return good({
      changed: baked > 0,
      said:
        baked > 0 ? `${baked} ${baked === 1 ? 'node' : 'nodes'} baked` : 'there is no scale or turn to bake',
    })
  },
})

const isOf = (node: Node, which: 'scaled or turned' | 'scaled' | 'mirrored'): boolean =>
  which === 'mirrored'
    ? mirrorOf(node) !== null
    : which === 'scaled'
      ? node.getScale().some((v) => v !== 1)
      : true

const isPlain = (node: Node): boolean =>
  node.getScale().every((v) => v === 1) &&
  node
    .getRotation()
    .slice(0, 3)
    .every((v) => v === 0)

/** Nodes whose place a clip or a skin says. */
function heldNodes(document: Document): Set<Node> {
  return new Set([
    ...movedNodes(document),
    ...document
      .getRoot()
      .listSkins()
      .flatMap((s) => s.listJoints()),
  ])
}

/** Whether points without a skin hang on a node; those with one stand by their bones. */
const drawsAnything = (node: Node): boolean =>
  (node.getMesh() !== null && node.getSkin() === null) || node.listChildren().some(drawsAnything)

/** A matrix taken apart gives numbers that differ by rounding. */
const SAME = 1e-6

/** More along one axis than along another; a mirror alone shears nothing. */
const isStretched = (node: Node): boolean => {
  const [x, y, z] = node.getScale().map(Math.abs) as [number, number, number]
  return Math.abs(x - y) > SAME * x || Math.abs(y - z) > SAME * x
}

/**
 * What a node hands on must find a place: not in a node that is held, nor as a shear, which no node can hold.
 */
const canBake = (node: Node, held: ReadonlySet<Node | null>): boolean =>
  !held.has(node) &&
  !node.getSkin() &&
  node
    .listChildren()
    .every(
      (child) =>
        !held.has(child) &&
        (!isStretched(node) || isPlain(child) || !drawsAnything(child) || canBake(child, held)),
    )

interface Baking {
  held: ReadonlySet<Node | null>
  bakeMesh: BakeMesh
}

/**
 * Edits in place. The node keeps its translation alone; what it had besides goes into its mesh and in front
 * of its children's transforms.
 */
function bakeNode(node: Node, baking: Baking): void {
  const stretched = isStretched(node)
  // A turned child of a stretched node would need shear: what it has is baked first
  if (stretched)
    for (const child of node.listChildren())
      if (!isPlain(child) && drawsAnything(child)) bakeNode(child, baking)
  const plain = node.listChildren().filter(isPlain)
  const linear = Array.from(node.getMatrix())
  linear[12] = linear[13] = linear[14] = 0
  baking.bakeMesh(node, linear)
  const mirror = mirrorOf(node),
    upright = mirror ? Array.from(multiplyMatrices(linear, mirror)) : linear
  for (const child of node.listChildren()) {
    // A child that is mirrored itself stands upright again; another one must not become what its node was
    const passed =
      mirror !== null && drawsAnything(child) && !mirrorOf(child) && !holdsHeld(child, baking.held)
    if (passed) handOnMirror(child, mirror, baking)
    handOn(node, child, passed ? upright : linear, stretched && !isPlain(child))
  }
  node.setScale([1, 1, 1]).setRotation([0, 0, 0, 1])
  for (const child of plain) if (drawsAnything(child) && canBake(child, baking.held)) bakeNode(child, baking)
}

/** Signs of a mirrored node's scale, as a matrix; null for one that is not. */
function mirrorOf(node: Node): number[] | null {
  const [x, y, z] = node.getScale().map((v) => (v < 0 ? -1 : 1)) as [number, number, number]
  return x * y * z < 0 ? [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, 0, 0, 0, 1] : null
}

const holdsHeld = (node: Node, held: ReadonlySet<Node | null>): boolean =>
  held.has(node) || node.listChildren().some((child) => holdsHeld(child, held))

/**
 * Takes a mirror through a node and all drawn below it down to the points: places are mirrored, turns go the
 * other way round, scales stay.
 */
function handOnMirror(node: Node, mirror: readonly number[], baking: Baking): void {
  const [x, y, z] = [mirror[0]!, mirror[5]!, mirror[10]!],
    place = node.getTranslation(),
    turn = node.getRotation()
  node
    .setTranslation([place[0] * x, place[1] * y, place[2] * z])
    .setRotation([-turn[0] * x, -turn[1] * y, -turn[2] * z, turn[3]])
  if (!node.getSkin()) baking.bakeMesh(node, mirror)
  for (const child of node.listChildren()) {
    if (drawsAnything(child)) handOnMirror(child, mirror, baking)
    else child.setMatrix(Array.from(multiplyMatrices(mirror, child.getMatrix())) as never)
  }
}

/**
 * Puts what a node had in front of its child's own. Of a turned child that would be sheared and draws
 * nothing, as a place to hang things on, the place and the turn are kept.
 */
function handOn(node: Node, child: Node, linear: readonly number[], sheared: boolean): void {
  if (!sheared) return void child.setMatrix(Array.from(multiplyMatrices(linear, child.getMatrix())) as never)
  const own = node.getScale(),
    scale = child.getScale()
  // Its mirror was taken out, or there is none
  const kept = mirrorOf(node) && linearDeterminant(linear) > 0 ? own.map(Math.abs) : own
  child
    .setTranslation([...transformPoints(new Float32Array(child.getTranslation()), linear)] as [
      number,
      number,
      number,
    ])
    .setRotation(multiplyTurns(node.getRotation(), child.getRotation()))
    .setScale([kept[0]! * scale[0], kept[1]! * scale[1], kept[2]! * scale[2]])
}

/**
 * Bakes linear transforms into the mesh of a node. Nodes that share a mesh go on sharing one where they had
 * the same transform.
 */
type BakeMesh = (node: Node, linear: readonly number[]) => void

/** A mesh that one transform was baked into, by that transform. */
interface Baked {
  linear: readonly number[]
  mesh: Mesh
}

function meshBaker(document: Document): BakeMesh {
  const users = new Map<Mesh, number>(),
    baked = new Map<Mesh, Baked[]>(),
    listed = new Map<Mesh, Baked[]>()
  for (const node of document.getRoot().listNodes())
    if (node.getMesh()) users.set(node.getMesh()!, (users.get(node.getMesh()!) ?? 0) + 1)
  const move = (node: Node, from: Mesh, to: Mesh): void => {
    node.setMesh(to)
    users.set(from, users.get(from)! - 1)
    users.set(to, (users.get(to) ?? 0) + 1)
    if (users.get(from) === 0) for (const part of [...from.listPrimitives(), from]) part.dispose()
  }
  return (node, linear) => {
    const mesh = node.getMesh()
    if (!mesh) return
    const known = baked.get(mesh)?.find((b) => isSame(b.linear, linear))
    if (known) return move(node, mesh, known.mesh)
    const own = users.get(mesh)! > 1 ? copyOf(mesh) : mesh
    if (own !== mesh) {
      const list = baked.get(mesh) ?? [],
        entry = { linear, mesh: own }
      list.push(entry)
      baked.set(mesh, list)
      listed.set(own, list)
      move(node, mesh, own)
    } else if (listed.has(mesh)) {
      // It is no longer what it was baked to be
      const list = listed.get(mesh)!
      list.splice(
        list.findIndex((b) => b.mesh === mesh),
        1,
      )
      listed.delete(mesh)
    }
    for (const primitive of own.listPrimitives()) bakePrimitive(document, primitive, linear)
  }
}

function isSame(a: readonly number[], b: readonly number[]): boolean {
  const least = SAME * Math.max(...a.slice(0, 12).map(Math.abs))
  return a.every((v, i) => Math.abs(v - b[i]!) <= least)
}

function copyOf(mesh: Mesh): Mesh {
  const copy = mesh.clone()
  for (const primitive of copy.listPrimitives()) copy.swap(primitive, primitive.clone())
  return copy
}

function bakePrimitive(document: Document, primitive: Primitive, linear: readonly number[]): void {
  ownAttributes(primitive)
  const cofactors = cofactorMatrix(linear)
  const mirrored = linearDeterminant(linear) < 0
  for (const holder of [primitive, ...primitive.listTargets()]) {
    const position = holder.getAttribute('POSITION'),
      normal = holder.getAttribute('NORMAL'),
      tangent = holder.getAttribute('TANGENT')
    // A normal is turned by the cofactors, which keep it upright on its face under any scale
    if (position)
      holder.setAttribute(
        'POSITION',
        position
          .clone()
          .setNormalized(false)
          .setArray(transformPoints(floatsOf(position), linear) as Float32Array<ArrayBuffer>),
      )
    if (normal)
      holder.setAttribute(
        'NORMAL',
        normal
          .clone()
          .setNormalized(false)
          .setArray(turnVectors(floatsOf(normal), 3, cofactors, holder === primitive)),
      )
    if (tangent)
      holder.setAttribute(
        'TANGENT',
        tangent
          .clone()
          .setNormalized(false)
          .setArray(
            turnVectors(floatsOf(tangent), tangent.getElementSize(), linear, holder === primitive, mirrored),
          ),
      )
  }
  if (!mirrored || primitiveView(primitive).mode !== 'triangles') return
  const indices = primitiveView(primitive).indices.slice()
  for (let k = 0; k + 2 < indices.length; k += 3)
    [indices[k + 1], indices[k + 2]] = [indices[k + 2]!, indices[k + 1]!]
  setTriangles(document, primitive, indices)
}
