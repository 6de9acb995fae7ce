import type { Material, Mesh, Primitive } from '@gltf-transform/core'
import { joinPrimitives } from '@gltf-transform/functions'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { exchangeChoices } from '../../scene/variants'
import { slotNames } from '../../scene/slotNames'
import { defineRemedy } from '../defineRemedy'

export const mergeSlots = defineRemedy({
  id: 'slots/merge',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Merge two slots',
  words: ({ slot, keep }) => `${slot} → ${keep}`,
  about:
    'Gives all triangles of one slot to another and takes the emptied slot out. ' +
    'Parts of a mesh that then share a slot and carry the same attributes become one. ' +
    'Shapes and UVs stay as they are.',
  options: z.strictObject({
    slot: z.string().describe('name of the slot that goes').meta({ names: 'slot' }),
    keep: z.string().describe('name of the slot that stays').meta({ names: 'slot' }),
  }),
  async apply(work, { slot, keep }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no slots' })
    const names = new Map([...slotNames(work.document)].map(([material, name]) => [name, material]))
    const from = names.get(slot),
      to = names.get(keep)
    if (!from || !to || from === to)
      return good({ changed: false, said: `there are no slots ${slot} and ${keep}` })
    for (const mesh of work.document.getRoot().listMeshes()) {
      const moved = mesh.listPrimitives().filter((p) => p.getMaterial() === from)
      for (const primitive of moved) primitive.setMaterial(to)
      if (moved.length > 0) joinParts(mesh, to)
    }
    exchangeChoices(work.document, from, to)
    from.dispose()
    return good({ changed: true, said: `${slot} is now ${keep}` })
  },
})

/** Joins the primitives of a mesh that share a slot, a mode and their attributes. Edits in place. */
function joinParts(mesh: Mesh, slot: Material): void {
  const groups = new Map<string, Primitive[]>()
  for (const primitive of mesh.listPrimitives()) {
    if (
      primitive.getMaterial() !== slot ||
      primitive.listTargets().length > 0 ||
      primitive.listExtensions().length > 0
    )
      continue
    const layout = primitive
      .listSemantics()
      .sort()
      .map((s) => [
        s,
        primitive.getAttribute(s)!.getType(),
        primitive.getAttribute(s)!.getComponentType(),
        primitive.getAttribute(s)!.getNormalized(),
      ])
    const key = JSON.stringify([primitive.getMode(), primitive.getIndices() !== null, layout])
    groups.set(key, [...(groups.get(key) ?? []), primitive])
  }
  for (const group of groups.values()) {
    if (group.length < 2) continue
    const joined = joinPrimitives(group)
    for (const primitive of group) mesh.removePrimitive(primitive)
    mesh.addPrimitive(joined)
  }
}
