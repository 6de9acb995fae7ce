import type { SheetFacts } from '@stern-gate/contract'
import { uvGap } from '../geometry/uvGap'
import { uvOverlap } from '../geometry/uvOverlap'
import type { AddEvidence } from './evidence'
import type { MeasuredPrimitive } from './measurePrimitive'
import type { PlacedMesh } from './placedMesh'

/** Share of the covered sheet that may overlap where gaps are measured. */
const UNIQUE = 0.01

/**
 * Overlap of every UV channel of a node: over all its primitives, and over those of each slot where there are
 * several. Evidence is kept for the whole only.
 */
export function measureSheets(
  mesh: PlacedMesh,
  measured: readonly MeasuredPrimitive[],
  path: string,
  addEvidence: AddEvidence,
): SheetFacts[] {
  const channels = new Set(measured.flatMap((m) => m.facts.uvChannels.map((c) => c.channel)))
  const slots = new Set(mesh.primitives.map((p) => p.slot))
  return [...channels]
    .sort((a, b) => a - b)
    .flatMap((channel) => {
      const whole = overlapOf(mesh, measured, channel, () => true)
      if (!whole) return []
      whole.lists.forEach((list, index) => addEvidence(`uv${channel}-overlap:${path}:${index}`, list))
      const bySlot =
        slots.size < 2
          ? []
          : [...slots].flatMap((slot) => {
              const own = overlapOf(mesh, measured, channel, (s) => s === slot)
              return own && slot !== null ? [{ ...own.facts, slot }] : []
            })
      return [{ ...whole.facts, gap: gapOf(channel, whole) }, ...bySlot]
    })
}

interface Sheet {
  facts: SheetFacts
  /** Overlapping triangles of each primitive. */
  lists: Uint32Array[]
  laid: Laid
}

/** A first channel is for textures that may lie anywhere, and what lies over itself has no gaps to speak of. */
const gapOf = (channel: number, { facts, laid }: Sheet): SheetFacts['gap'] =>
  channel > 0 && facts.overlapped <= facts.covered * UNIQUE
    ? uvGap(laid.uv, laid.indices, laid.islands)
    : null

function overlapOf(
  mesh: PlacedMesh,
  measured: readonly MeasuredPrimitive[],
  channel: number,
  wanted: (slot: string | null) => boolean,
): Sheet | null {
  const own = mesh.primitives
    .map((p, i) => ({
      ...p,
      uv: p.view.uvs[channel] ?? null,
      sheet: measured[i]!.sheets[channel] ?? null,
      i,
    }))
    .filter((p) => p.uv && p.sheet && wanted(p.slot))
  if (own.length === 0) return null
  const { uv, indices, islands } =
    own.length === 1
      ? { uv: own[0]!.uv!, indices: own[0]!.view.indices, islands: own[0]!.sheet!.islandOf }
      : joinSheets(own.map((p) => ({ uv: p.uv!, indices: p.view.indices, islands: p.sheet!.islandOf })))
  const { triangles: overlapping, ...found } = uvOverlap(uv, indices, islands)
  const lists = mesh.primitives.map(() => new Uint32Array(0))
  let from = 0
  for (const p of own) {
    const to = from + p.sheet!.islandOf.length,
      start = from
    lists[p.i] = overlapping.filter((k) => k >= start && k < to).map((k) => k - start)
    from = to
  }
  return {
    facts: { channel, slot: null, ...found, triangles: overlapping.length, gap: null },
    lists,
    laid: { uv, indices, islands },
  }
}

interface Laid {
  uv: Float32Array
  indices: Uint32Array
  islands: Uint32Array
}

/**
 * One sheet of several primitives; indices that name no vertex of their own name none of the others' either.
 */
function joinSheets(sheets: readonly Laid[]): Laid {
  const vertices = sheets.reduce((sum, s) => sum + s.uv.length / 2, 0),
    triangles = sheets.reduce((sum, s) => sum + s.islands.length, 0)
  const uv = new Float32Array(vertices * 2),
    indices = new Uint32Array(triangles * 3),
    islands = new Uint32Array(triangles)
  let v = 0,
    t = 0
  for (const own of sheets) {
    const vertexCount = own.uv.length / 2,
      count = own.islands.length
    uv.set(own.uv, v * 2)
    for (let k = 0; k < count * 3; k++)
      indices[t * 3 + k] = own.indices[k]! < vertexCount ? own.indices[k]! + v : 0xffffffff
    for (let k = 0; k < count; k++) islands[t + k] = own.islands[k]! + v
    v += vertexCount
    t += count
  }
  return { uv, indices, islands }
}
