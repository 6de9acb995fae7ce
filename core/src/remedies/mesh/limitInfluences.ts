import type { Document, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { weightSets } from '../../measure/measureSkin'
import { formatCount } from '../../numbers/formatNumber'
import { floatsOf } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { meshesAt, setFloats } from '../meshWork'

export const limitInfluences = defineRemedy({
  id: 'mesh/limit-influences',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Limit bone influences per vertex',
  words: ({ most }) => `At most ${most} influences`,
  about:
    'Keeps the strongest weights of each vertex and makes them add up to 1. A vertex that follows no ' +
    'bone is left alone; points and bones are not touched.',
  options: z.strictObject({
    node: nodeOption,
    most: z.int().min(1).max(16).default(4).describe('bones that one vertex may follow'),
  }),
  async apply(work, { node: path, most }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no weights' })
    let changed = 0
    for (const { mesh } of meshesAt(work, path))
      for (const primitive of mesh.listPrimitives()) changed += limitPrimitive(work.document, primitive, most)
    return good({
      changed: changed > 0,
      said:
        changed > 0
          ? `the weights of ${formatCount(changed)} vertices changed`
          : 'all weights are within the limit',
    })
  },
})

/** Edits in place; returns how many vertices changed. */
function limitPrimitive(document: Document, primitive: Primitive, most: number): number {
  const weights = weightSets(primitive)
  if (weights.length === 0) return 0
  const joints = weights.map((_, n) => floatsOf(primitive.getAttribute(`JOINTS_${n}`)!))
  const vertices = Math.floor(weights[0]!.length / 4)
  const sets = Math.min(weights.length, Math.ceil(most / 4))
  const newWeights = Array.from({ length: sets }, () => new Float32Array(vertices * 4)),
    newJoints = Array.from({ length: sets }, () => new Uint16Array(vertices * 4))
  let changed = 0
  for (let v = 0; v < vertices; v++) {
    const pairs = weights
      .flatMap((set, n) =>
        [0, 1, 2, 3].map((i) => ({ weight: set[v * 4 + i] ?? 0, joint: joints[n]![v * 4 + i] ?? 0 })),
      )
      .filter((p) => p.weight > 0)
    const sum = pairs.reduce((all, p) => all + p.weight, 0)
    if (pairs.length > most || (pairs.length > 0 && Math.abs(sum - 1) > 1e-3)) changed++
    const kept = pairs.sort((a, b) => b.weight - a.weight).slice(0, most)
    const total = kept.reduce((all, p) => all + p.weight, 0)
    kept.forEach((p, k) => {
      newWeights[k >> 2]![v * 4 + (k & 3)] = p.weight / total
      newJoints[k >> 2]![v * 4 + (k & 3)] = p.joint
    })
  }
  if (changed === 0) return 0
  for (let n = 0; n < weights.length; n++) {
    const joint = primitive.getAttribute(`JOINTS_${n}`)!
    primitive.setAttribute(
      `JOINTS_${n}`,
      n < sets ? joint.clone().setNormalized(false).setArray(newJoints[n]!) : null,
    )
    if (n < sets) setFloats(document, primitive, `WEIGHTS_${n}`, newWeights[n]!, 'VEC4')
    else primitive.setAttribute(`WEIGHTS_${n}`, null)
  }
  return changed
}
