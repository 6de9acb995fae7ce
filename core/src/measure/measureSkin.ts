import type { Primitive } from '@gltf-transform/core'
import type { PrimitiveFacts } from '@stern-gate/contract'
import { floatsOf } from '../scene/primitiveView'

/** Weights of a vertex may add up to as much more or less than 1: what 8-bit weights lose. */
const SUM_TOLERANCE = 0.02

/** Counts the bones that each vertex follows. Null without weights. */
export function measureSkin(primitive: Primitive): PrimitiveFacts['skin'] {
  const sets = weightSets(primitive)
  if (sets.length === 0) return null
  const vertices = Math.floor(sets[0]!.length / 4)
  const influences = new Array<number>(sets.length * 4 + 1).fill(0)
  let notOne = 0
  for (let v = 0; v < vertices; v++) {
    let count = 0,
      sum = 0
    for (const set of sets)
      for (let i = 0; i < 4; i++) {
        const weight = set[v * 4 + i] ?? 0
        if (weight > 0) count++
        sum += weight
      }
    influences[count]!++
    if (!(Math.abs(sum - 1) <= SUM_TOLERANCE)) notOne++
  }
  while (influences.length > 1 && influences.at(-1) === 0) influences.pop()
  return { influences, notOne }
}

/** WEIGHTS_0, WEIGHTS_1 … as floats, four numbers a vertex. */
export function weightSets(primitive: Primitive): Float32Array[] {
  const sets: Float32Array[] = []
  for (let n = 0; primitive.getAttribute(`WEIGHTS_${n}`) && primitive.getAttribute(`JOINTS_${n}`); n++)
    sets.push(floatsOf(primitive.getAttribute(`WEIGHTS_${n}`)!))
  return sets
}
