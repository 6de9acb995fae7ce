import type { Node, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { gapFinder, type GapFinder } from '../../geometry/gapFinder'
import { invertAffine, linearDeterminant, transformPoints } from '../../geometry/matrix'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { formatLength } from '../../numbers/formatNumber'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { slotNames } from '../../scene/slotNames'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { setFloats } from '../meshWork'
import type { Work } from '../work'
import { slotCalled } from './slotCalled'

export const liftDecal = defineRemedy({
  id: 'slots/lift-decal',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Put a decal off its surface',
  words: ({ slot, gap }) => `${slot}: ${formatLength(gap)} off`,
  about:
    'Moves every point of a slot along its normal until it lies so far off the surface under it; ' +
    'points that have none under them go as far as the others. ' +
    'Levels are done one by one. What follows bones is left alone.',
  options: z.strictObject({
    slot: z.string().describe('name of the slot that is a decal').meta({ names: 'slot' }),
    gap: z.number().min(0).max(1).default(0.002).describe('metres off the surface under it'),
  }),
  async apply(work, { slot: name, gap }) {
    const found = slotCalled(work, name)
    if (!found.ok) return found
    const { levels, finest } = partsOfDocument(work.document!)
    const all = levels.size > 0 ? [...levels.values()] : [finest]
    const moves = all.flatMap((nodes) => movesOf(work, nodes, name, gap))
    if (moves.length === 0)
      return bad(
        'remedy/not-applicable',
        `Nothing lies under ${name} in its files.`,
        'Bring it with the surface that it belongs on.',
        { slot: name },
      )
    const farthest = Math.max(...moves.map((m) => m.farthest))
    if (farthest < 1e-6) return good({ changed: false, said: `${name} lies so already` })
    const done = new Set<Primitive>()
    for (const { node, primitive, world } of moves) {
      // Copies share their points: the first says where they lie
      if (done.has(primitive)) continue
      done.add(primitive)
      const back = invertAffine(node.getWorldMatrix())!
      setFloats(work.document!, primitive, 'POSITION', transformPoints(world, back), 'VEC3')
    }
    return good({
      changed: true,
      said: `${name} lies ${formatLength(gap)} off, moved by up to ${formatLength(farthest)}`,
    })
  },
})

interface Move {
  node: Node
  primitive: Primitive
  world: Float32Array
  farthest: number
}

/** Metres to both sides in which the surface under a point is looked for. */
const REACH = 0.1

function movesOf(work: Work, nodes: readonly DocumentNode[], slot: string, gap: number): Move[] {
  const names = slotNames(work.document!)
  const lists = nodes.flatMap(({ node, primitives }) =>
    primitives
      .filter((p) => primitiveView(p).mode === 'triangles')
      .map((primitive) => ({
        node,
        primitive,
        own: names.get(primitive.getMaterial()!) === slot,
        positions: worldPositions(node, primitive, primitiveView(primitive).positions),
        indices: primitiveView(primitive).indices,
        turned: !node.getSkin() && linearDeterminant(node.getWorldMatrix()) < 0,
      })),
  )
  const find = gapFinder(lists.filter((l) => !l.own))
  if (!find) return []
  return lists
    .filter((l) => l.own && !l.node.getSkin() && invertAffine(l.node.getWorldMatrix()) !== null)
    .flatMap(({ node, primitive, positions, indices, turned }) => {
      const normals = normalsOf(node, primitive, positions, indices, turned)
      const moved = lifted(positions, normals, find, gap)
      return moved ? [{ node, primitive, ...moved }] : []
    })
}

/** Points that lie `gap` off what is under them; null where none has anything under it. */
function lifted(
  positions: Float32Array,
  normals: Float32Array,
  find: GapFinder,
  gap: number,
): { world: Float32Array; farthest: number } | null {
  const count = positions.length / 3,
    by = new Float64Array(count).fill(NaN)
  for (let v = 0; v < count; v++) {
    const now = find(positions.subarray(v * 3, v * 3 + 3), normals.subarray(v * 3, v * 3 + 3), REACH)
    if (now !== null) by[v] = gap - now
  }
  const known = by.filter((d) => !Number.isNaN(d)).sort()
  if (known.length === 0) return null
  const middle = known[known.length >> 1]!
  const world = new Float32Array(positions.length)
  let farthest = 0
  for (let v = 0; v < count; v++) {
    const d = Number.isNaN(by[v]!) ? middle : by[v]!
    farthest = Math.max(farthest, Math.abs(d))
    for (let i = 0; i < 3; i++) world[v * 3 + i] = positions[v * 3 + i]! + normals[v * 3 + i]! * d
  }
  return { world, farthest }
}

/** Normals in the world, of length 1: those of the file, else of the triangles around each point. */
function normalsOf(
  node: Node,
  primitive: Primitive,
  positions: Float32Array,
  indices: Uint32Array,
  turned: boolean,
): Float32Array {
  const own = primitive.getAttribute('NORMAL'),
    out = new Float32Array(positions.length)
  const back = invertAffine(node.getWorldMatrix())!
  if (own) {
    const local = floatsOf(own)
    // Normals turn with the transpose of the inverse
    for (let k = 0; k + 2 < out.length; k += 3)
      for (let i = 0; i < 3; i++)
        out[k + i] =
          back[i * 4]! * local[k]! + back[i * 4 + 1]! * local[k + 1]! + back[i * 4 + 2]! * local[k + 2]!
  } else addTriangleNormals(out, positions, indices, turned ? -1 : 1)
  for (let k = 0; k + 2 < out.length; k += 3) {
    const length = Math.hypot(out[k]!, out[k + 1]!, out[k + 2]!) || 1
    for (let i = 0; i < 3; i++) out[k + i]! /= length
  }
  return out
}

function addTriangleNormals(
  out: Float32Array,
  positions: Float32Array,
  indices: Uint32Array,
  sign: number,
): void {
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3]
    const side = (from: number, to: number, i: number): number =>
      (positions[to + i] ?? 0) - (positions[from + i] ?? 0)
    for (let i = 0; i < 3; i++) {
      const j = (i + 1) % 3,
        k = (i + 2) % 3
      const n = sign * (side(a, b, j) * side(a, c, k) - side(a, b, k) * side(a, c, j))
      for (const v of [a, b, c]) if (v + i < out.length) out[v + i]! += n
    }
  }
}
