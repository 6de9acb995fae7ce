import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import {
  applyRecipe,
  cutHulls,
  openWork,
  surfaceDeviation,
  triangleSurvey,
  type LevelSurface,
} from '@stern-gate/core'
import { once } from './clock'
import type { Figure } from './figure'
import { lumpyBall } from './sampleGlb'

const LARGE = 1_000_000,
  SMALL = 100_000,
  HULLED = 50_000
const SAMPLES = 100_000
const RATIO = 0.5

/** Levels of a large mesh against the library's own time, how far they are off, and several hulls. */
export async function levelFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell(`levels of ${LARGE} triangles`)
  const fine = ball(LARGE)
  await MeshoptSimplifier.ready
  const bytes = await lumpyBall(LARGE)
  let library = 0
  const { positions, indices, carried } = fine
  for (const share of [RATIO, RATIO ** 2, RATIO ** 3])
    library += await once(() => {
      const wanted = Math.floor((indices.length / 3) * share) * 3
      MeshoptSimplifier.simplifyWithAttributes(
        indices,
        positions,
        3,
        carried,
        5,
        [0.5, 0.5, 0.5, 0.5, 0.5],
        null,
        wanted,
        0.1,
        ['LockBorder'],
      )
    })
  const work = await openWork('ball', 'mesh', 'ball.glb', [{ path: 'ball.glb', part: 'mesh', bytes }])
  if (!work.ok) throw new Error(work.fault.why)
  const steps = [
    { id: '1', remedy: 'lods/make', options: { levels: 3, ratio: RATIO }, on: true, why: 'bench' },
  ]
  const unused = () => Promise.reject(new Error('no picture is asked for'))
  const making = await once(async () => {
    const done = await applyRecipe(
      work.value,
      { steps },
      {
        decode: unused,
        encodePng: unused,
        stepData: () => null,
      },
    )
    if (!done.ok) throw new Error(done.fault.why)
  })
  tell(`deviation of ${LARGE} against ${SMALL} triangles`)
  const coarse = ball(SMALL)
  const measuring = await once(() => surfaceDeviation(surfaceOf(fine), surfaceOf(coarse), SAMPLES))
  tell(`several hulls of ${HULLED} triangles`)
  const ring = torus(HULLED)
  let hulls = 0
  const cutting = await once(() => {
    hulls = cutHulls([ring], { hulls: 16, corners: 32, worth: 0.01 }).length
  })
  return [
    {
      what: `Levels of 50, 25 and 12 % of ${LARGE} triangles against the simplifier library's own time`,
      measured: `${making.toFixed(0)} ms against ${library.toFixed(0)} ms`,
      ratio: making / library,
      wanted: { most: 1.5 },
    },
    {
      what: `Deviation of ${LARGE} against ${SMALL} triangles, ${SAMPLES} samples and as many vertices each way, in seconds`,
      measured: `${measuring.toFixed(0)} ms, ${Math.round(((SAMPLES * 2) / measuring) * 1000)} samples a second`,
      ratio: measuring / 1000,
      wanted: { most: 5 },
    },
    {
      what: `Several hulls of ${HULLED} triangles, in seconds`,
      measured: `${cutting.toFixed(0)} ms for ${hulls}`,
      ratio: cutting / 1000,
      wanted: { most: 10 },
    },
  ]
}

interface Shape {
  positions: Float32Array
  indices: Uint32Array
  /** Normal and UV of each vertex side by side. */
  carried: Float32Array
}

const ball = (triangles: number): Shape =>
  woven(Math.round(Math.sqrt(triangles / 2)), Math.round(Math.sqrt(triangles / 2)), (u, v) => {
    const a = u * 2 * Math.PI,
      b = 0.02 + v * (Math.PI - 0.04),
      r = 1 + 0.08 * Math.sin(a * 7) * Math.sin(b * 5)
    return [r * Math.sin(b) * Math.cos(a), r * Math.cos(b), -r * Math.sin(b) * Math.sin(a)]
  })
const torus = (triangles: number): Shape =>
  woven(Math.round(Math.sqrt((triangles / 2) * 2.5)), Math.round(Math.sqrt(triangles / 2 / 2.5)), (u, v) => {
    const a = u * 2 * Math.PI,
      b = v * 2 * Math.PI
    return [(2 + 0.5 * Math.cos(b)) * Math.cos(a), 0.5 * Math.sin(b), (2 + 0.5 * Math.cos(b)) * Math.sin(a)]
  })

/** A surface over a sheet of u and v. */
function woven(across: number, down: number, at: (u: number, v: number) => [number, number, number]): Shape {
  const count = (across + 1) * (down + 1)
  const positions = new Float32Array(count * 3),
    carried = new Float32Array(count * 5),
    indices = new Uint32Array(across * down * 6)
  for (let i = 0, n = 0; i <= down; i++)
    for (let j = 0; j <= across; j++, n++) {
      const place = at(j / across, i / down),
        length = Math.hypot(...place) || 1
      positions.set(place, n * 3)
      carried.set([...place.map((p) => p / length), j / across, i / down], n * 5)
    }
  for (let i = 0, n = 0; i < down; i++)
    for (let j = 0; j < across; j++, n += 6) {
      const k = i * (across + 1) + j
      indices.set([k, k + across + 1, k + across + 2, k, k + across + 2, k + 1], n)
    }
  return { positions, indices, carried }
}

const surfaceOf = ({ positions, indices }: Shape): LevelSurface => ({
  parts: [
    { positions, indices, areas: triangleSurvey(positions, indices, 0).areas, turned: false, uvs: null },
  ],
})
