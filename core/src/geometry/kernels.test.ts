import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxOf } from '../fixtures/crateShape'
import { convexHull, outOfHull } from './convexHull'
import { BLOCK, inKernels } from '../kernels/inKernels'
import { mergeVertices } from './mergeVertices'
import { FACE_CRUMB, FACE_INSIDE_OUT, meshTopology } from './meshTopology'
import { mirrorSymmetry } from './mirrorSymmetry'
import { nearPoints } from './nearPoints'
import { normalAgreement } from './normalAgreement'
import { pointIds } from './pointIds'
import { smoothNormals } from './smoothNormals'
import { supportDirections, supportOf } from './supportDirections'
import { surfaceSamples } from './surfaceSamples'
import { triangleSurvey } from './triangleSurvey'
import { vertexCacheUse } from './vertexCache'

const whole = (max: number) => fc.integer({ min: -max, max })

describe('points', () => {
  it('are numbered by place; −0 is 0, what is no number equals nothing', () => {
    const found = pointIds(new Float32Array([0, 0, 0, 1, 2, 3, -0, 0, 0, NaN, 0, 0, NaN, 0, 0]))
    expect([[...found.ids], found.count, [...found.first]]).toEqual([[0, 1, 0, 2, 3], 4, [0, 1, 3, 4]])
  })
  it('that are no numbers take no longer, however many', () =>
    expect(pointIds(new Float32Array(900_000).fill(NaN)).count).toBe(300_000))
  it('agree with a slow count, for any points', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(whole(3), whole(3), whole(3)), { minLength: 1, maxLength: 60 }),
        (list) => {
          expect(pointIds(new Float32Array(list.flat())).count).toBe(new Set(list.map(String)).size)
        },
      ),
    )
  })
  it('near an earlier one are found as a slow search finds them', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(whole(40), whole(40), whole(40)), { minLength: 1, maxLength: 50 }),
        fc.integer({ min: 1, max: 9 }),
        (list, distance) => {
          const points = new Float32Array(list.flat())
          const far = (p: number[], q: number[]): number =>
            (p[0]! - q[0]!) ** 2 + (p[1]! - q[1]!) ** 2 + (p[2]! - q[2]!) ** 2
          const kept: [number, number, number][] = []
          for (const p of list) if (!kept.some((q) => far(p, q) <= distance ** 2)) kept.push(p)
          const { near, rep } = nearPoints(points, distance)
          expect(near).toBe(list.length - kept.length)
          rep.forEach((r, i) =>
            expect(far(list[r]!, list[i]!)).toBe(
              Math.min(...kept.filter((k) => list.indexOf(k) <= i).map((k) => far(k, list[i]!))),
            ),
          )
        },
      ),
    )
  })
  it('in a row each within the distance of the one before do not all go to the first', () => {
    const row = new Float32Array([0, 0, 0, 0.9, 0, 0, 1.8, 0, 0, 2.7, 0, 0])
    expect([...nearPoints(row, 1).rep]).toEqual([0, 0, 2, 2])
  })
  it('all in one cell, since one of them is far away, take no longer for that', () => {
    const points = new Float32Array(300_000).map((_, k) => Math.sin(k * 12.9898) * 0.5)
    points[0] = 1e6
    expect(nearPoints(points, 10).near).toBe(99_998)
  })
  it('near nothing with a distance of 0', () =>
    expect(nearPoints(new Float32Array([0, 0, 0, 0, 0, 0]), 0).near).toBe(0))
  it('of one place stay apart when an attribute differs', () => {
    const points = new Uint32Array([0, 0, 0, 1])
    expect([
      ...mergeVertices(points, 2, [{ values: new Float32Array([1, 2, 1, 1]), size: 1, tolerance: 0.1 }]).rep,
    ]).toEqual([0, 1, 0, 3])
    expect(mergeVertices(points, 2, []).merged).toBe(2)
  })
})

/** A box as point corners. */
function boxCorners(grid = 1) {
  const box = boxOf(2, [0, 0, 0], grid)
  const { ids, first, count } = pointIds(new Float32Array(box.positions))
  const places = new Float32Array(count * 3)
  for (let p = 0; p < count; p++)
    for (let i = 0; i < 3; i++) places[p * 3 + i] = box.positions[first[p]! * 3 + i]!
  return { corners: Uint32Array.from(box.indices, (v) => ids[v]!), places, box }
}

describe('the kernels', () => {
  it('do one piece of work at a time, and go on after one that failed', () => {
    expect(() => inKernels(() => pointIds(new Float32Array(3)))).toThrow('at work already')
    expect(pointIds(new Float32Array([1, 2, 3, 1, 2, 3])).count).toBe(1)
  })
  it('keep what they hold when more room is asked for, and give much of it back', () => {
    const kept = inKernels((room) => {
      const at = room.hold(new Uint32Array([7, 8, 9]))
      room.filled(100 * 2 ** 20)
      return [...room.words(at, 3)]
    })
    expect(kept).toEqual([7, 8, 9])
    expect(inKernels((room) => room.bytes(0, 1).buffer.byteLength)).toBeLessThan(2 ** 21)
  })
  it('merge no vertex by a number that is missing', () =>
    expect(
      mergeVertices(new Uint32Array([0, 0, 0]), 1, [
        { values: new Float32Array([5, 5]), size: 1, tolerance: 1 },
      ]),
    ).toEqual({ rep: new Uint32Array([0, 0, 2]), merged: 1 }))
  it('walk lists longer than a block, and the last block’s rest', () => {
    const count = BLOCK * 2 + 5,
      indices = Uint32Array.from({ length: count * 3 }, (_, k) => k % 3)
    indices[count * 3 - 1] = 99
    const survey = triangleSurvey(new Float32Array([0, 0, 0, 2, 0, 0, 0, 2, 0]), indices, 1e-9)
    expect([survey.area, survey.badIndices, survey.areas[count - 2], survey.areas[count - 1]]).toEqual([
      (count - 1) * 2,
      new Uint32Array([count - 1]),
      2,
      0,
    ])
  })
})

describe('topology', () => {
  it('of a fan of 20,000 triangles around its lowest point: its ring is open, the one that is there twice is found and stands apart', () => {
    const count = 20_000,
      places = new Float32Array((count + 1) * 3),
      corners = new Uint32Array((count + 1) * 3)
    for (let i = 0; i < count; i++) {
      places.set([Math.cos((i * 2 * Math.PI) / count), Math.sin((i * 2 * Math.PI) / count), 0], (i + 1) * 3)
      // Every seventh of the way round, so that neighbours are far apart in the list
      const at = (i * 7) % count
      corners.set([0, at + 1, ((at + 1) % count) + 1], i * 3)
    }
    corners.set(corners.subarray(0, 3), count * 3)
    const t = meshTopology(corners, places, 'plain')
    expect([t.shells, t.openEdges, t.nonManifoldEdges, t.turnedEdges, t.duplicates]).toEqual([
      2,
      count - 1,
      2,
      1,
      1,
    ])
  })
  it('of a box of 2 m: one closed shell of 8 m³, no open edge', () => {
    const { corners, places } = boxCorners(3)
    const t = meshTopology(corners, places, 'plain')
    expect([t.shells, t.closedShells, t.openEdges, t.nonManifoldEdges, t.insideOut, t.duplicates]).toEqual([
      1, 1, 0, 0, 0, 0,
    ])
    expect(t.volume).toBeCloseTo(8, 5)
  })
  it('turned inside out every triangle is said to face in, and mirrored again none is', () => {
    const { corners, places } = boxCorners()
    const turned = corners.map((_, k) => corners[k - (k % 3) + [0, 2, 1][k % 3]!]!)
    expect(meshTopology(turned, places, 'plain').insideOut).toBe(12)
    expect(meshTopology(turned, places, 'mirrored').insideOut).toBe(0)
  })
  it('finds just the triangles that were turned, whichever', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 11 }), { maxLength: 12 }), (turned) => {
        const { corners, places } = boxCorners()
        const own = corners.slice()
        for (const t of turned) [own[t * 3 + 1], own[t * 3 + 2]] = [own[t * 3 + 2]!, own[t * 3 + 1]!]
        const { flags } = meshTopology(own, places, 'plain')
        expect([...flags].flatMap((f, t) => (f & FACE_INSIDE_OUT ? [t] : []))).toEqual(
          [...turned].sort((a, b) => a - b),
        )
      }),
    )
  })
  it('counts open edges, a fin and a doubled triangle', () => {
    const { corners, places } = boxCorners()
    const open = meshTopology(corners.subarray(3), places, 'plain')
    expect([open.openEdges, open.closedShells]).toEqual([3, 0])
    const doubled = meshTopology(Uint32Array.from([...corners, ...corners.subarray(0, 3)]), places, 'plain')
    expect([doubled.duplicates, doubled.nonManifoldEdges]).toEqual([1, 3])
  })
  it('of nothing, or of collapsed triangles, is nothing', () => {
    expect(meshTopology(new Uint32Array([0, 0, 1, 5, 6, 7]), new Float32Array(6), 'plain')).toMatchObject({
      shells: 0,
      openEdges: 0,
      insideOut: 0,
    })
  })
})

describe('normals', () => {
  it('against the face are found, and a length of 2 is not unit', () => {
    const positions = new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]),
      indices = new Uint32Array([0, 1, 2])
    const all = (z: number) => new Float32Array([0, 0, z, 0, 0, z, 0, 0, z])
    expect(normalAgreement(positions, all(1), indices, 'plain')).toMatchObject({
      notUnit: 0,
      against: new Uint32Array(0),
    })
    expect([...normalAgreement(positions, all(-1), indices, 'plain').against]).toEqual([0])
    expect(normalAgreement(positions, all(2), indices, 'plain').notUnit).toBe(3)
  })
  it('of a box are its faces below 90°, and lean to the corner above', () => {
    const { corners, places } = boxCorners()
    const hard = smoothNormals(corners, places, Math.PI / 4)
    for (let k = 0; k < hard.length; k += 3)
      expect(Math.max(...[0, 1, 2].map((i) => Math.abs(hard[k + i]!)))).toBeCloseTo(1, 5)
    const soft = smoothNormals(corners, places, Math.PI)
    for (let k = 0; k < soft.length; k += 3)
      for (let i = 0; i < 3; i++) expect(Math.abs(soft[k + i]!)).toBeCloseTo(1 / Math.sqrt(3), 5)
  })
})

describe('hulls', () => {
  it('of a box holds its volume and corners, and tells how far out a point is', () => {
    const hull = convexHull(new Float32Array(boxOf(2, [0, 0, 0], 3).positions))!
    expect([hull.corners, hull.volume]).toEqual([8, expect.closeTo(8, 4)])
    expect(outOfHull(hull, 0, 1, 0)).toBeCloseTo(-1, 5)
    expect(outOfHull(hull, 3, 1, 0)).toBeCloseTo(2, 5)
  })
  it('of a plane, of too few points or of no numbers is none', () => {
    expect(convexHull(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))).toBeNull()
    expect(convexHull(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 2, 1, 0]))).toBeNull()
    expect(convexHull(new Float32Array([NaN, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 1]))).toBeNull()
  })
  it('reach: no point reaches further than the support says, and one reaches as far', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(whole(9), whole(9), whole(9)), { minLength: 1, maxLength: 12 }),
        (list) => {
          const reach = supportOf(new Float32Array(list.flat()))
          for (const [d, [x, y, z]] of supportDirections.entries())
            expect(reach[d]).toBeCloseTo(Math.max(...list.map((p) => p[0] * x + p[1] * y + p[2] * z)), 4)
        },
      ),
    )
  })
})

describe('samples of a surface', () => {
  const parts = (grid: number) => {
    const box = boxOf(2, [0, 0, 0], grid),
      positions = new Float32Array(box.positions),
      indices = new Uint32Array(box.indices)
    return [{ positions, indices, areas: triangleSurvey(positions, indices, 0).areas }]
  }
  it('lie on it, and are the same each time', () => {
    const samples = surfaceSamples(parts(2), 500, 7)
    expect(samples.length).toBe(1500)
    for (let k = 0; k < samples.length; k += 3)
      expect(
        Math.max(Math.abs(samples[k]!), Math.abs(samples[k + 1]! - 1), Math.abs(samples[k + 2]!)),
      ).toBeCloseTo(1, 5)
    expect(surfaceSamples(parts(2), 500, 7)).toEqual(samples)
  })
  it('of a box mirror along every axis, of one without its top not along Y', () => {
    const bounds = {
      min: [-1, 0, -1] as [number, number, number],
      max: [1, 2, 1] as [number, number, number],
    }
    for (const share of mirrorSymmetry(surfaceSamples(parts(4), 4096, 1), bounds))
      expect(share).toBeGreaterThan(0.98)
    const [part] = parts(1)
    const faces = part!.indices.subarray(0, 18),
      half = mirrorSymmetry(
        surfaceSamples([{ ...part!, indices: faces, areas: part!.areas.subarray(0, 6) }], 4096, 1),
        bounds,
      )
    expect(half[0]).toBeGreaterThan(0.98)
    expect(half[1]).toBeLessThan(0.9)
  })
})

describe('the vertex cache', () => {
  it('a strip transforms each vertex once; triangles far apart transform it anew', () => {
    // Ten triangles of a strip use twelve vertices
    const strip = Uint32Array.from({ length: 30 }, (_, k) => Math.floor(k / 3) + (k % 3))
    expect(vertexCacheUse(strip, 12)).toEqual({ acmr: 1.2, atvr: 1 })
    // One triangle, then six others that push its three vertices out (18 > 16), then the first again
    const again = Uint32Array.from([...Array.from({ length: 21 }, (_, k) => k), 0, 1, 2])
    expect(vertexCacheUse(again, 21)).toEqual({ acmr: 3, atvr: 24 / 21 })
    expect(vertexCacheUse(new Uint32Array(0), 3)).toBeNull()
    expect(vertexCacheUse(new Uint32Array([0, 1, 900]), 2)).toEqual({ acmr: 2, atvr: 1 })
  })
})

describe('open borders', () => {
  const positions = new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0.5, 0.5, 1])
  it('a pyramid without its base has one border of four edges, and no hole: it is too coarse to tell', () => {
    const t = meshTopology(new Uint32Array([0, 1, 4, 1, 2, 4, 2, 3, 4, 3, 0, 4]), positions, 'plain')
    expect([t.openEdges, t.borders, t.holes, t.crumbs]).toEqual([4, 1, 0, 0])
  })
  it('two triangles that meet in a point share a border; apart they have two', () => {
    expect(meshTopology(new Uint32Array([0, 1, 2, 0, 3, 4]), positions, 'plain').borders).toBe(1)
    expect(
      meshTopology(new Uint32Array([0, 1, 2, 3, 4, 5]), new Float32Array([...positions, 2, 2, 2]), 'plain')
        .borders,
    ).toBe(2)
  })
  it('a triangle of a ten thousandth of the surface is a crumb', () => {
    const small = new Float32Array([...positions, 5, 5, 5, 5.001, 5, 5, 5, 5.001, 5])
    const t = meshTopology(new Uint32Array([0, 1, 2, 0, 2, 3, 5, 6, 7]), small, 'plain')
    expect([t.crumbs, t.flags[2]! & FACE_CRUMB]).toEqual([1, FACE_CRUMB])
    expect(t.flags[0]! & FACE_CRUMB).toBe(0)
  })
})
