import type { SightLine } from '@stern-gate/core/brush'
import { asking } from './askWorker'
import type { StageModel } from './loadModel'
import { joinMeshes } from './meshPlaces'
import type { PickAnswer, PickAsk } from './pickWorker'

type Place = [number, number, number]

/** A vertex that was picked, in the world: of the model itself or of what stands beside it. */
export interface PickedPoint {
  at: Place
  beside: boolean
}

/** Vertices while they are being picked on what is shown. */
export interface PointSession {
  /** The vertex nearest to a line of sight, of the triangle that it meets first; null where it meets nothing. */
  pick: (line: SightLine) => Promise<PickedPoint | null>
  /** The lowest end of the model along each axis, in metres. */
  lowest: Place
  /** A length that is small against the model, in metres. */
  small: number
  end: () => void
}

interface Shown {
  model: StageModel
  shown: readonly string[]
}

/** Begins to pick vertices of a model, and of another that stands at its origin; null where nothing is shown. */
export async function beginPoints(own: Shown, beside: Shown | null): Promise<PointSession | null> {
  const meshesOf = ({ model, shown }: Shown) => model.meshes.filter((m) => shown.includes(m.path))
  const ownMeshes = meshesOf(own)
  if (ownMeshes.length === 0) return null
  const { positions, indices, pieces } = joinMeshes(
    [...ownMeshes, ...(beside ? meshesOf(beside) : [])].map((m) => m.mesh),
  )
  const ownEnd = pieces[ownMeshes.length]?.first ?? positions.length / 3
  const worker = new Worker(new URL('./pickWorker.ts', import.meta.url), { type: 'module' })
  const ask = asking<PickAsk, PickAnswer>(worker)
  await ask({ kind: 'begin', positions, uvs: null, indices })
  const { low, high } = endsOf(positions.subarray(0, ownEnd * 3))
  return {
    async pick(line) {
      const { triangles } = await ask({ kind: 'pick', line, reach: { kind: 'face' } })
      if (!triangles) return null
      const corners = [0, 1, 2].map((i) => indices[triangles[0]! * 3 + i]!)
      const placeOf = (v: number): Place => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]
      const nearest = corners.reduce((best, v) =>
        distanceFrom(line, placeOf(v)) < distanceFrom(line, placeOf(best)) ? v : best,
      )
      return { at: placeOf(nearest), beside: nearest >= ownEnd }
    },
    lowest: low,
    small: Math.max(...high.map((v, i) => v - low[i]!)) / 16,
    end: () => worker.terminate(),
  }
}

function endsOf(places: Float32Array): { low: Place; high: Place } {
  const low: Place = [Infinity, Infinity, Infinity],
    high: Place = [-Infinity, -Infinity, -Infinity]
  places.forEach((v, k) => {
    const axis = k % 3
    if (v < low[axis]!) low[axis] = v
    if (v > high[axis]!) high[axis] = v
  })
  return { low, high }
}

/** Squared distance of a place from a line whose direction has length 1. */
function distanceFrom({ origin, direction }: SightLine, at: Place): number {
  const to = at.map((v, i) => v - origin[i]!),
    along = to.reduce((sum, v, i) => sum + v * direction[i]!, 0)
  return to.reduce((sum, v, i) => sum + (v - along * direction[i]!) ** 2, 0)
}
