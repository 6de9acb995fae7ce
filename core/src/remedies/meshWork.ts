import type { Accessor, Document, Mesh, Node, Primitive } from '@gltf-transform/core'
import { compactPrimitive } from '@gltf-transform/functions'
import { nodePaths } from '../scene/nodePaths'
import { MODE_TRIANGLES, primitiveView } from '../scene/primitiveView'
import type { Work } from './work'

/**
 * Nodes with a mesh at a path, or all of them; a mesh that several nodes share is given once, with the first.
 */
export function meshesAt(work: Work, path: string | null): { node: Node; path: string; mesh: Mesh }[] {
  if (!work.document) return []
  const done = new Set<Mesh>()
  return [...nodePaths(work.document)].flatMap(([node, own]) => {
    const mesh = node.getMesh()
    if (!mesh || done.has(mesh) || (path !== null && path !== own)) return []
    done.add(mesh)
    return [{ node, path: own, mesh }]
  })
}

/** Primitives that are made of triangles. */
export const trianglePrimitives = (mesh: Mesh): Primitive[] =>
  mesh.listPrimitives().filter((p) => primitiveView(p).mode === 'triangles')

/** Puts a triangle list in place of what was there; vertices that nothing uses go. */
export function setTriangles(document: Document, primitive: Primitive, indices: Uint32Array): void {
  primitive.setMode(MODE_TRIANGLES)
  primitive.setIndices(
    document.createAccessor().setType('SCALAR').setArray(indices).setBuffer(bufferOf(document, primitive)),
  )
  if (indices.length > 0) compactPrimitive(primitive)
}

/** Puts values in place of an attribute, as floats. */
export function setFloats(
  document: Document,
  primitive: Primitive,
  semantic: string,
  values: Float32Array,
  type: 'VEC2' | 'VEC3' | 'VEC4',
): void {
  primitive.setAttribute(
    semantic,
    document
      .createAccessor(semantic)
      .setType(type)
      .setArray(values as Float32Array<ArrayBuffer>)
      .setBuffer(bufferOf(document, primitive)),
  )
}

const bufferOf = (document: Document, primitive: Primitive) =>
  primitive.getAttribute('POSITION')?.getBuffer() ??
  document.getRoot().listBuffers()[0] ??
  document.createBuffer()

/**
 * Gives the primitive attributes of its own, so that writing to them changes no other. Morph targets
 * likewise.
 */
export function ownAttributes(primitive: Primitive): void {
  for (const holder of [primitive, ...primitive.listTargets()])
    for (const semantic of holder.listSemantics()) {
      const accessor = holder.getAttribute(semantic)!
      if (isShared(accessor)) holder.setAttribute(semantic, accessor.clone())
    }
}

/** The Document's root counts as a parent, the primitive as another. */
const isShared = (accessor: Accessor): boolean => accessor.listParents().length > 2

/** Spreads an indexed primitive out: values of one attribute for each corner of each triangle. */
export function spread(values: Float32Array, size: number, indices: Uint32Array): Float32Array {
  const out = new Float32Array(indices.length * size)
  for (let k = 0; k < indices.length; k++)
    for (let i = 0; i < size; i++) out[k * size + i] = values[indices[k]! * size + i]!
  return out
}

/**
 * Makes vertices anew, each with the attributes of the one that `source` names; morph targets likewise. The
 * triangles are still to be set. Edits in place.
 */
export function gatherVertices(primitive: Primitive, source: Uint32Array): void {
  for (const holder of [primitive, ...primitive.listTargets()])
    for (const semantic of holder.listSemantics()) {
      const accessor = holder.getAttribute(semantic)!
      const values = accessor.getArray()!,
        size = accessor.getElementSize()
      const out = new (values.constructor as Float32ArrayConstructor)(source.length * size)
      for (let k = 0; k < source.length; k++)
        for (let i = 0; i < size; i++) out[k * size + i] = values[source[k]! * size + i]!
      holder.setAttribute(semantic, accessor.clone().setArray(out))
    }
}

/**
 * Makes every corner of every triangle a vertex of its own. Triangles that name a vertex which is not there draw
 * nothing, and go. Edits in place.
 */
export function unweldPrimitive(document: Document, primitive: Primitive): void {
  const view = primitiveView(primitive),
    vertices = view.positions.length / 3
  const indices = view.indices.every((v) => v < vertices)
    ? view.indices
    : view.indices.filter((_, k, all) => {
        const t = k - (k % 3)
        return all[t]! < vertices && all[t + 1]! < vertices && all[t + 2]! < vertices
      })
  gatherVertices(primitive, indices)
  primitive.setMode(MODE_TRIANGLES)
  primitive.setIndices(
    document
      .createAccessor()
      .setType('SCALAR')
      .setArray(Uint32Array.from({ length: indices.length }, (_, k) => k))
      .setBuffer(bufferOf(document, primitive)),
  )
}

/**
 * Joins vertices that agree in everything: `rep` gives each vertex the one that stands for it. Triangles that
 * collapse go. Edits in place; returns how many triangles went.
 */
export function joinVertices(document: Document, primitive: Primitive, rep: Uint32Array): number {
  const { indices } = primitiveView(primitive)
  const kept: number[] = []
  for (let k = 0; k + 2 < indices.length; k += 3) {
    const a = rep[indices[k]!] ?? indices[k]!,
      b = rep[indices[k + 1]!] ?? indices[k + 1]!,
      c = rep[indices[k + 2]!] ?? indices[k + 2]!
    if (a !== b && b !== c && a !== c) kept.push(a, b, c)
  }
  setTriangles(document, primitive, Uint32Array.from(kept))
  return (indices.length - kept.length) / 3
}
