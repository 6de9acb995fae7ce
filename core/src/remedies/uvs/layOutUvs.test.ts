import type { Node } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxOf } from '../../fixtures/crateFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { unwrapSurface } from '../../geometry/unwrapSurface'
import { uvOverlap } from '../../geometry/uvOverlap'
import { measureNodes } from '../../measure/measureNodes'
import { applyRecipe } from '../../recipe/applyRecipe'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { openedCrate } from '../../fixtures/workFixture'
import type { Work } from '../work'

async function layOut(work: Work, options: Record<string, string | number | boolean | null> = {}) {
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy: 'uvs/lay-out', options, on: true, why: '' }] },
    fixturePorts,
  )
  if (!done.ok) throw new Error(done.fault.why)
  return done.value[0]!
}

const drawn = (work: Work): Node[] =>
  work
    .document!.getRoot()
    .listNodes()
    .filter((n) => n.getMesh() && !/hull/.test(n.getName()))

/** Texels of a sheet that each island touches; islands are told by shared vertices of the triangles. */
function texelsOf(uvs: Float32Array, indices: Uint32Array, size: number): Set<string>[] {
  const group = Array.from({ length: uvs.length / 2 }, (_, i) => i)
  const find = (i: number): number => (group[i] === i ? i : (group[i] = find(group[i]!)))
  for (let t = 0; t < indices.length; t += 3)
    for (const k of [1, 2]) group[find(indices[t + k]!)] = find(indices[t]!)
  const islands = new Map<number, Set<string>>()
  for (let t = 0; t < indices.length; t += 3) {
    const texels = islands.get(find(indices[t]!)) ?? new Set<string>()
    islands.set(find(indices[t]!), texels)
    const [a, b, c] = [0, 1, 2].map((k) => [
      uvs[indices[t + k]! * 2]! * size,
      uvs[indices[t + k]! * 2 + 1]! * size,
    ]) as [number[], number[], number[]]
    for (let i = 0; i <= 40; i++)
      for (let j = 0; i + j <= 40; j++) {
        const u = i / 40,
          v = j / 40
        texels.add(
          `${Math.floor(a[0]! * (1 - u - v) + b[0]! * u + c[0]! * v)},${Math.floor(a[1]! * (1 - u - v) + b[1]! * u + c[1]! * v)}`,
        )
      }
  }
  return [...islands.values()]
}

/** Whether a texel of the other island lies nearer than the gap. */
function isNear(texel: string, other: ReadonlySet<string>, gap: number): boolean {
  const [x, y] = texel.split(',').map(Number) as [number, number]
  for (let dx = -gap; dx <= gap; dx++)
    for (let dy = -gap; dy <= gap; dy++) if (other.has(`${x + dx},${y + dy}`)) return true
  return false
}

describe('uvs/lay-out', () => {
  it('lays a lightmap channel inside the sheet, unique, unmirrored, evenly', async () => {
    const work = await openedCrate({ levels: 2 })
    expect(await layOut(work, { keep: false })).toMatchObject({ changed: true })
    const { nodes } = await measureNodes(work.document!, () => undefined)
    const measured = nodes.filter((n) => !/hull/.test(n.name) && n.primitives.length > 0)
    expect(measured.length).toBeGreaterThan(1)
    for (const node of measured) {
      const sheet = node.sheets.find((s) => s.channel === 1 && s.slot === null)!
      expect(sheet.overlapped).toBeLessThan(1e-6)
      for (const primitive of node.primitives) {
        const channel = primitive.uvChannels.find((c) => c.channel === 1)!
        expect(channel).toMatchObject({ outside: 0, mirrored: 0, degenerate: 0 })
        expect(channel.density!.high / channel.density!.low).toBeLessThan(1.1)
      }
    }
  })

  it("keeps places, normals and the textures' channel of every corner", async () => {
    const before = await openedCrate(),
      after = await openedCrate()
    await layOut(after, { keep: false })
    const corners = (work: Work, semantic: string, size: number): number[][] =>
      drawn(work)
        .flatMap((n) => n.getMesh()!.listPrimitives())
        .flatMap((p) => {
          const values = floatsOf(p.getAttribute(semantic)!)
          return [...primitiveView(p).indices].map((v) => [...values.subarray(v * size, v * size + size)])
        })
    for (const [semantic, size] of [
      ['POSITION', 3],
      ['NORMAL', 3],
      ['TEXCOORD_0', 2],
    ] as const)
      expect(corners(after, semantic, size)).toEqual(corners(before, semantic, size))
  })

  it('leaves an authored channel, a channel that carries a texture and collision alone', async () => {
    const kept = await openedCrate()
    const [first] = drawn(kept)
    const had = first!.getMesh()!.listPrimitives()[0]!.getAttribute('TEXCOORD_1') !== null
    expect(await layOut(kept, { channel: had ? 1 : 0 })).toMatchObject({ changed: false })
    expect(await layOut(kept, { channel: 0, keep: false })).toMatchObject({
      changed: false,
      said: 'UV0 stays as it is',
    })
    await layOut(kept, { keep: false })
    for (const node of kept
      .document!.getRoot()
      .listNodes()
      .filter((n) => /hull/.test(n.getName())))
      for (const p of node.getMesh()?.listPrimitives() ?? []) expect(p.getAttribute('TEXCOORD_1')).toBeNull()
  })

  it('a mirrored node is laid out so that it reads unmirrored', async () => {
    const work = await openedCrate()
    for (const node of drawn(work)) node.setScale([-1, 1, 1])
    await layOut(work, { keep: false })
    const { nodes } = await measureNodes(work.document!, () => undefined)
    for (const node of nodes.filter((n) => !/hull/.test(n.name)))
      for (const p of node.primitives) expect(p.uvChannels.find((c) => c.channel === 1)!.mirrored).toBe(0)
  })

  it('says so when the gaps leave no room', async () => {
    const work = await openedCrate()
    const done = await applyRecipe(
      work,
      {
        steps: [
          { id: '1', remedy: 'uvs/lay-out', options: { size: 16, gap: 64, keep: false }, on: true, why: '' },
        ],
      },
      fixturePorts,
    )
    expect(done).toMatchObject({ ok: false, fault: { code: 'remedy/not-applicable' } })
  })
})

describe('unwrapSurface', () => {
  it('keeps the gap between islands and one texel at the edge, for boxes of any size', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.double({ min: 0.05, max: 20, noNaN: true }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 1, max: 4 }),
        fc.constantFrom(64, 128, 256),
        async (sides, gap, size) => {
          const box = boxOf(1, [0, 0, 0], 1)
          const positions = Float32Array.from(box.positions, (v, i) => v * sides[i % 3]!)
          const done = await unwrapSurface([{ positions, indices: Uint32Array.from(box.indices) }], {
            size,
            gap,
          })
          // A long box has no room on a small sheet, and the remedy says so
          if (!done.ok && sides.some((s) => s > 20 * Math.min(...sides))) return
          if (!done.ok) throw new Error(done.fault.why)
          const { uvs, indices } = done.value.parts[0]!
          const islands = texelsOf(uvs, indices, size)
          expect(islands).toHaveLength(done.value.islands)
          for (const value of uvs) expect(Math.min(value, 1 - value) * size).toBeGreaterThanOrEqual(1 - 1e-3)
          for (const [i, own] of islands.entries())
            for (const other of islands.slice(i + 1))
              expect([...own].filter((texel) => isNear(texel, other, gap))).toEqual([])
        },
      ),
      { numRuns: 12 },
    )
  })

  it('no island of a round body is mirrored or lies over another, and the sheet is used', async () => {
    const box = boxOf(2, [0, 0, 0], 24),
      middle = 1
    const positions = Float32Array.from(box.positions)
    for (let v = 0; v < positions.length; v += 3) {
      const [x, y, z] = [positions[v]!, positions[v + 1]! - middle, positions[v + 2]!]
      const length = Math.hypot(x, y, z)
      positions.set([x / length, y / length, z / length], v)
    }
    const done = await unwrapSurface([{ positions, indices: Uint32Array.from(box.indices) }], {
      size: 512,
      gap: 2,
    })
    if (!done.ok) throw new Error(done.fault.why)
    const { uvs, indices } = done.value.parts[0]!
    let area = 0
    for (let t = 0; t < indices.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [uvs[indices[t + k]! * 2]!, uvs[indices[t + k]! * 2 + 1]!]) as [
        number[],
        number[],
        number[],
      ]
      const own = ((b[0]! - a[0]!) * (c[1]! - a[1]!) - (c[0]! - a[0]!) * (b[1]! - a[1]!)) / 2
      expect(own).toBeGreaterThan(0)
      area += own
    }
    expect(area).toBeGreaterThan(0.4)
    expect(uvOverlap(uvs, indices, new Uint32Array(indices.length / 3)).overlapped).toBeLessThan(1e-6)
  })

  it.each([
    ['huge', 1e30],
    ['tiny', 1e-20],
  ])('a %s body is laid out like any other', async (_, scale) => {
    const box = boxOf(1, [0, 0, 0], 1)
    expect(
      await unwrapSurface(
        [
          {
            positions: Float32Array.from(box.positions, (v) => v * scale),
            indices: Uint32Array.from(box.indices),
          },
        ],
        { size: 64, gap: 2 },
      ),
    ).toMatchObject({ ok: true, value: { islands: 6 } })
  })

  it.each([
    ['no number', NaN, 0],
    ['endless', Infinity, 0],
    ['not there', 0, 99],
  ])('a point that is %s is refused and not waited for', async (_, value, corner) => {
    const box = boxOf(1, [0, 0, 0], 1)
    const positions = Float32Array.from(box.positions),
      indices = Uint32Array.from(box.indices)
    positions[4] = value
    if (corner > 0) indices[5] = corner
    expect(await unwrapSurface([{ positions, indices }], { size: 64, gap: 2 })).toMatchObject({
      ok: false,
      fault: { code: 'remedy/not-applicable' },
    })
  })

  it('a tangle of triangles ends in time', async () => {
    let state = 7
    const random = (): number => (state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff
    const positions = Float32Array.from({ length: 300 }, () => random() - 0.5)
    const soup = Uint32Array.from({ length: 900 }, () => Math.floor(random() * 100)),
      fan = soup.map((v, k) => (k % 3 < 2 ? k % 3 : v))
    for (const indices of [soup, fan])
      expect(typeof (await unwrapSurface([{ positions, indices }], { size: 1024, gap: 1 })).ok).toBe(
        'boolean',
      )
  })

  it('a surface without area is refused', async () => {
    expect(
      await unwrapSurface([{ positions: new Float32Array(9), indices: Uint32Array.of(0, 1, 2) }], {
        size: 64,
        gap: 2,
      }),
    ).toMatchObject({ ok: false })
  })
})
