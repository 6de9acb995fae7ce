import type { SheetFacts } from '@stern-gate/contract'
import { uvOverlap } from '../geometry/uvOverlap'
import type { AddEvidence } from './evidence'
import type { MeasuredPrimitive } from './measurePrimitive'
import type { PlacedMesh } from './placedMesh'

/** Overlap of every UV channel of a node: over all its primitives, and over those of each slot where there are several. Evidence is kept for the whole only. */
export function measureSheets(mesh: PlacedMesh, measured: readonly MeasuredPrimitive[], path: string, addEvidence: AddEvidence): SheetFacts[] {
  const channels = new Set(measured.flatMap((m) => m.facts.uvChannels.map((c) => c.channel)))
  const slots = new Set(mesh.primitives.map((p) => p.slot))
  return [...channels].sort((a, b) => a - b).flatMap((channel) => {
    const whole = overlapOf(mesh, measured, channel, () => true)
    if (!whole) return []
    whole.lists.forEach((list, index) => addEvidence(`uv${channel}-overlap:${path}:${index}`, list))
    const bySlot = slots.size < 2 ? [] : [...slots].flatMap((slot) => {
      const own = overlapOf(mesh, measured, channel, (s) => s === slot)
      return own && slot !== null ? [{ ...own.facts, slot }] : []
    })
    return [whole.facts, ...bySlot]
  })
}

function overlapOf(mesh: PlacedMesh, measured: readonly MeasuredPrimitive[], channel: number, wanted: (slot: string | null) => boolean): { facts: SheetFacts; lists: Uint32Array[] } | null {
  const own = mesh.primitives.map((p, i) => ({ ...p, uv: p.view.uvs[channel] ?? null, sheet: measured[i]!.sheets[channel] ?? null, i })).filter((p) => p.uv && p.sheet && wanted(p.slot))
  if (own.length === 0) return null
  const vertices = own.reduce((sum, p) => sum + p.uv!.length / 2, 0), triangles = own.reduce((sum, p) => sum + Math.floor(p.view.indices.length / 3), 0)
  const uv = new Float32Array(vertices * 2), indices = new Uint32Array(triangles * 3), islands = new Uint32Array(triangles)
  let v = 0, t = 0
  for (const p of own) {
    uv.set(p.uv!, v * 2)
    for (let k = 0; k < p.sheet!.islandOf.length * 3; k++) indices[t * 3 + k] = p.view.indices[k]! < p.uv!.length / 2 ? p.view.indices[k]! + v : 0xffffffff
    for (let k = 0; k < p.sheet!.islandOf.length; k++) islands[t + k] = p.sheet!.islandOf[k]! + v
    v += p.uv!.length / 2
    t += p.sheet!.islandOf.length
  }
  const { triangles: overlapping, ...found } = uvOverlap(uv, indices, islands)
  const lists = mesh.primitives.map(() => new Uint32Array(0))
  let from = 0
  for (const p of own) {
    const to = from + p.sheet!.islandOf.length, start = from
    lists[p.i] = overlapping.filter((k) => k >= start && k < to).map((k) => k - start)
    from = to
  }
  return { facts: { channel, slot: null, ...found, triangles: overlapping.length }, lists }
}
