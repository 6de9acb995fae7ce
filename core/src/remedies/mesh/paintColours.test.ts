import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PaintedPart } from '@stern-gate/contract'
import { openedCrate } from '../../fixtures/workFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { applyRecipe } from '../../recipe/applyRecipe'
import { nodePaths } from '../../scene/nodePaths'
import { floatsOf } from '../../scene/primitiveView'
import { findPainted, packPainted } from '../../surfaces/paintedParts'
import type { Work } from '../work'

const DATA = 'a'.repeat(64)
/** A sheet of 1 × 1 m in x and z, of n × n squares. */
function sheet(n: number): { positions: Float32Array; indices: Uint32Array } {
  const at = (x: number, z: number): number => z * (n + 1) + x
  const positions: number[] = [],
    indices: number[] = []
  for (let z = 0; z <= n; z++) for (let x = 0; x <= n; x++) positions.push(x / n, 0, z / n)
  for (let z = 0; z < n; z++)
    for (let x = 0; x < n; x++)
      indices.push(at(x, z), at(x, z + 1), at(x + 1, z), at(x + 1, z), at(x, z + 1), at(x + 1, z + 1))
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const painted = (n: number, value: (x: number, z: number) => number, rest = 0): PaintedPart => {
  const { positions, indices } = sheet(n)
  const values = Float32Array.from({ length: positions.length / 3 }, (_, v) =>
    value(positions[v * 3]!, positions[v * 3 + 2]!),
  )
  return packPainted({ node: 'sheet', positions, indices, values, rest })
}

describe('what was painted', () => {
  it('is found at the same vertices to a step of 8 bits, and elsewhere between them', () => {
    const part = painted(8, (x) => x)
    const { values, near } = findPainted(part, sheet(8).positions)!
    expect(near).toBe(81)
    for (let v = 0; v < 81; v++) expect(Math.abs(values[v]! - (v % 9) / 8)).toBeLessThan(1 / 255)
    // A re-export of another density: the ramp is where it was
    const other = findPainted(part, sheet(13).positions)!
    for (let v = 0; v < 196; v++) expect(Math.abs(other.values[v]! - (v % 14) / 13)).toBeLessThan(2 / 255)
  })
  it('is the rest where nothing is near, and nothing where all is 0', () => {
    const part = painted(4, (x) => (x < 0.5 ? 1 : 0.25), 0.25)!
    const far = findPainted(part, new Float32Array([0, 5, 0, 0, 0, 0]))!
    expect([...far.values]).toEqual([0.25, 1])
    expect(far.near).toBe(1)
    expect(
      findPainted(
        painted(4, () => 0),
        new Float32Array(3),
      ),
    ).toEqual({ values: new Float32Array(1), near: 0 })
    expect(
      findPainted(
        painted(4, () => 1, 1),
        new Float32Array([9, 9, 9]),
      )!.values[0],
    ).toBe(1)
  })
  it('keeps the triangles around what differs from the rest, and no others', () => {
    const part = painted(16, (x, z) => (x === 0.5 && z === 0.5 ? 1 : 0))
    // Six triangles meet at an inner corner of the sheet, around seven vertices
    expect(atob(part.triangles).length / 12).toBe(6)
    expect(atob(part.values).length).toBe(7)
  })
  it('refuses what cannot be', () => {
    const part = painted(2, (x) => x)
    expect(findPainted({ ...part, values: btoa('\x01') }, new Float32Array(3))).toBeNull()
    expect(findPainted({ ...part, triangles: btoa('\xff'.repeat(12)) }, new Float32Array(3))).toBeNull()
  })
  it('does not depend on the order of vertices', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.integer(), (n, seed) => {
        const { positions } = sheet(n),
          part = painted(n, (x, z) => x * z)
        const count = positions.length / 3
        const order = Array.from({ length: count }, (_, k) => k).sort(
          (a, b) => ((a * 7919 + seed) % 31) - ((b * 7919 + seed) % 31),
        )
        const turned = Float32Array.from(order.flatMap((v) => [...positions.subarray(v * 3, v * 3 + 3)]))
        const plain = findPainted(part, positions)!.values,
          mixed = findPainted(part, turned)!.values
        order.forEach((v, k) => expect(mixed[k]).toBeCloseTo(plain[v]!, 5))
      }),
      { numRuns: 40 },
    )
  })
})

async function paint(work: Work, part: PaintedPart | string, options = {}) {
  const bytes = new TextEncoder().encode(
    typeof part === 'string' ? part : JSON.stringify({ kind: 'painted', parts: [part] }),
  )
  return applyRecipe(
    work,
    {
      steps: [
        { id: '1', remedy: 'mesh/paint-colours', options: { data: DATA, ...options }, on: true, why: '' },
      ],
    },
    { ...fixturePorts, stepData: (sha256) => (sha256 === DATA ? bytes : null) },
  )
}

describe('painting vertex colours', () => {
  const firstPrimitive = (work: Work) => work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
  const wholeCrate = (work: Work): PaintedPart => {
    const [node, path] = [...nodePaths(work.document!)].find(([n]) => n.getMesh())!
    const primitive = node.getMesh()!.listPrimitives()[0]!
    const positions = floatsOf(primitive.getAttribute('POSITION')!)
    return packPainted({
      node: path,
      positions,
      indices: Uint32Array.from(primitive.getIndices()!.getArray()!),
      values: Float32Array.from({ length: positions.length / 3 }, (_, v) => (positions[v * 3]! > 0 ? 1 : 0)),
      rest: 0,
    })
  }
  it('writes one channel of the second set, and a white first one, which changes no picture', async () => {
    const work = await openedCrate({ hull: false })
    const done = await paint(work, wholeCrate(work))
    expect(done.ok && done.value[0]).toMatchObject({ changed: true })
    const primitive = firstPrimitive(work),
      positions = floatsOf(primitive.getAttribute('POSITION')!)
    expect(new Set(floatsOf(primitive.getAttribute('COLOR_0')!))).toEqual(new Set([1]))
    const colours = floatsOf(primitive.getAttribute('COLOR_1')!)
    for (let v = 0; v < positions.length / 3; v++)
      expect([...colours.subarray(v * 4, v * 4 + 4)]).toEqual([positions[v * 3]! > 0 ? 1 : 0, 0, 0, 1])
  })
  it('leaves what is not painted of a new first set white', async () => {
    const work = await openedCrate({ hull: false })
    await paint(work, wholeCrate(work), { set: 0, channel: 'G' })
    const colours = floatsOf(firstPrimitive(work).getAttribute('COLOR_0')!)
    for (let v = 0; v < colours.length / 4; v++)
      expect([colours[v * 4], colours[v * 4 + 2], colours[v * 4 + 3]]).toEqual([1, 1, 1])
    expect(new Set([...colours].filter((_, k) => k % 4 === 1))).toEqual(new Set([0, 1]))
  })
  it('leaves the other channels of a set that is there', async () => {
    const work = await openedCrate({ hull: false, colours: 'varied' })
    const before = floatsOf(firstPrimitive(work).getAttribute('COLOR_0')!).slice(),
      size = firstPrimitive(work).getAttribute('COLOR_0')!.getElementSize()
    await paint(work, wholeCrate(work), { set: 0, channel: 'G' })
    const after = floatsOf(firstPrimitive(work).getAttribute('COLOR_0')!)
    for (let v = 0; v < after.length / 4; v++) {
      expect(after[v * 4]).toBeCloseTo(before[v * size]!, 6)
      expect(after[v * 4 + 2]).toBeCloseTo(before[v * size + 2]!, 6)
    }
    expect(firstPrimitive(work).getAttribute('COLOR_1')).toBeNull()
  })
  it('leaves parts with another slot as they are', async () => {
    const work = await openedCrate({ hull: false })
    const done = await paint(work, wholeCrate(work), { slot: 'another' })
    expect(done.ok && done.value[0]).toMatchObject({ changed: false })
    expect(firstPrimitive(work).getAttribute('COLOR_1')).toBeNull()
  })
  it('says which node it does not find, and refuses what is not there or is damaged', async () => {
    const work = await openedCrate({ hull: false })
    const done = await paint(work, { ...wholeCrate(work), node: 'gone' })
    expect(done.ok && done.value[0]).toMatchObject({ changed: false, said: expect.stringContaining('gone') })
    for (const [part, options, words] of [
      ['{', {}, 'damaged'],
      [wholeCrate(work), { data: 'b'.repeat(64) }, 'not there'],
    ] as const) {
      const refused = await paint(work, part, options)
      expect(refused.ok === false && [refused.fault.code, refused.fault.why]).toEqual([
        'remedy/data-missing',
        expect.stringContaining(words),
      ])
    }
  })
})
