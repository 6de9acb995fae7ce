import type { Document } from '@gltf-transform/core'
import type { DecalFacts } from '@stern-gate/contract'
import { gapFinder } from '../geometry/gapFinder'
import { joinBounds, boundsSize, pointBounds } from '../geometry/pointBounds'
import { facingSamples } from '../geometry/surfaceSamples'
import { slotNames } from '../scene/slotNames'
import type { PlacedMesh, PlacedPrimitive } from './placedMesh'

const SAMPLES = 1024
const SEED = 20_261_130
/** How far from a decal another surface is looked for: this share of its longest side, and never further than that. */
const REACH_SHARE = 0.1,
  REACH_METRES = 0.05
/** A scene of more triangles is not looked at: it would take longer than all else. */
const MOST_TRIANGLES = 1_000_000

/** Tenths of a micrometre: what is less is noise of the numbers. */
const DIGITS = 7

type Vec3 = [number, number, number]

interface Worn {
  primitive: PlacedPrimitive
  turned: boolean
}

/**
 * Gaps between each slot that is not opaque and what lies under it, over the finest level. Slots that lie over
 * nothing are told with a share of 0; what was not looked at is not told.
 */
export function measureDecals(document: Document, level: readonly PlacedMesh[]): DecalFacts[] {
  const sheer = new Set(
    [...slotNames(document)].filter(([slot]) => slot.getAlphaMode() !== 'OPAQUE').map(([, name]) => name),
  )
  if (sheer.size === 0) return []
  const all: Worn[] = level.flatMap((m) =>
    m.primitives
      .filter((p) => p.view.mode === 'triangles')
      .map((primitive) => ({ primitive, turned: m.winding === 'mirrored' })),
  )
  if (all.reduce((sum, w) => sum + w.primitive.view.indices.length / 3, 0) > MOST_TRIANGLES) return []
  return [...sheer].flatMap((slot) => {
    const own = all.filter((w) => w.primitive.slot === slot)
    return own.length === 0
      ? []
      : (gapsOf(
          slot,
          own,
          all.filter((w) => w.primitive.slot !== slot),
        ) ?? [])
  })
}

function gapsOf(slot: string, own: readonly Worn[], others: readonly Worn[]): DecalFacts | null {
  const bounds = joinBounds(own.map((w) => pointBounds(w.primitive.world)))
  if (!bounds) return null
  const reach = Math.min(REACH_METRES, Math.max(...boundsSize(bounds)) * REACH_SHARE)
  const find = gapFinder(
    others.map(({ primitive: { world, view }, turned }) => ({
      positions: world,
      indices: view.indices,
      turned,
    })),
    // Nothing further away can be met
    { min: bounds.min.map((v) => v - reach) as Vec3, max: bounds.max.map((v) => v + reach) as Vec3 },
  )
  const gaps: number[] = []
  let samples = 0
  for (const turned of [false, true]) {
    const parts = own
      .filter((w) => w.turned === turned)
      .map(({ primitive: p }) => ({ positions: p.world, indices: p.view.indices, areas: p.survey.areas }))
    const { points, normals } = facingSamples(parts, SAMPLES, SEED)
    if (turned) normals.forEach((v, i) => (normals[i] = -v))
    samples += points.length / 3
    for (let k = 0; find && k < points.length; k += 3) {
      const gap = find(points.subarray(k, k + 3), normals.subarray(k, k + 3), reach)
      if (gap !== null) gaps.push(gap)
    }
  }
  if (samples === 0) return null
  gaps.sort((a, b) => a - b)
  const at = (share: number): number =>
    Number((gaps[Math.min(gaps.length - 1, Math.floor(share * gaps.length))] ?? 0).toFixed(DIGITS))
  return {
    slot,
    samples,
    over: gaps.length / samples,
    reach,
    least: at(0.01),
    middle: at(0.5),
    most: at(0.99),
  }
}
