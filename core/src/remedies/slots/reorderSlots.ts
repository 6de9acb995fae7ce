import type { Mesh, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { defineRemedy } from '../defineRemedy'

export const reorderSlots = defineRemedy({
  id: 'slots/reorder',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Order slots as on the finest level',
  words: () => 'Order slots',
  about:
    'Sorts the parts of every coarser level so that their slots come in the order of the finest one. Nothing visible changes.',
  options: z.strictObject({}),
  async apply(work) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no slots' })
    const levels = [...partsOfDocument(work.document).levels]
    const wanted = [
      ...new Set((levels[0]?.[1] ?? []).flatMap((n) => n.primitives.map((p) => p.getMaterial()))),
    ]
    const place = (p: Primitive): number =>
      wanted.includes(p.getMaterial()) ? wanted.indexOf(p.getMaterial()) : wanted.length
    let changed = 0
    const done = new Set<Mesh>()
    for (const [, nodes] of levels.slice(1))
      for (const { node } of nodes) {
        const mesh = node.getMesh()!
        if (!done.has(mesh) && sortPrimitives(mesh, place)) changed++
        done.add(mesh)
      }
    return good({
      changed: changed > 0,
      said:
        changed > 0
          ? `${changed} ${changed === 1 ? 'mesh' : 'meshes'} sorted`
          : 'the order is the same on every level',
    })
  },
})

function sortPrimitives(mesh: Mesh, place: (p: Primitive) => number): boolean {
  const before = mesh.listPrimitives(),
    after = [...before].sort((a, b) => place(a) - place(b))
  if (before.every((p, i) => p === after[i])) return false
  for (const primitive of before) mesh.removePrimitive(primitive)
  for (const primitive of after) mesh.addPrimitive(primitive)
  return true
}
