import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { meshesAt } from '../meshWork'

export const dropColours = defineRemedy({
  id: 'mesh/drop-colours',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Drop vertex colours',
  words: ({ set }) => `Drop colours ${set}`,
  about: 'Takes out a set of vertex colours; later sets move up. What was tinted by them is no longer.',
  options: z.strictObject({
    node: nodeOption,
    set: z.int().min(0).max(15).default(0).describe('number of the set, counted from 0'),
  }),
  async apply(work, { node: path, set }) {
    let dropped = 0
    for (const { mesh } of meshesAt(work, path))
      for (const primitive of mesh.listPrimitives()) {
        if (!primitive.getAttribute(`COLOR_${set}`)) continue
        dropped++
        for (let n = set; primitive.getAttribute(`COLOR_${n}`); n++)
          primitive.setAttribute(`COLOR_${n}`, primitive.getAttribute(`COLOR_${n + 1}`))
      }
    return good({
      changed: dropped > 0,
      said: dropped > 0 ? `colours ${set} dropped` : `there are no colours ${set}`,
    })
  },
})
