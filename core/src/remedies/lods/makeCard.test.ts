import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend, workOf } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import type { Pixels } from '../../image/pixels'
import { readTextureHeader } from '../../read/readTextureHeader'
import { fixturePorts } from '../../fixtures/pngFixture'
import { judge } from '../../judge/judge'
import { writeWork } from '../../recipe/writeWork'

async function decoded(bytes: Uint8Array): Promise<Pixels> {
  const header = readTextureHeader(bytes, 'card')
  if (!header.ok) throw new Error(header.fault.why)
  const read = await fixturePorts.decode(bytes, header.value)
  if (!read.ok) throw new Error(read.fault.why)
  return read.value
}

async function carded(options: Record<string, number> = {}, crate = {}) {
  const work = await openedCrate({ hull: false, embed: false, ...crate })
  const done = await mend(work, 'lods/make-card', { texels: 32, ...options })
  const files = await writeWork(work)
  const measured = await measureFixture(Object.fromEntries(files.map((f) => [f.path, f.bytes])))
  const mesh = measured.find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  const card = mesh.nodes!.find(
    (n) => /_lod\d$/.test(n.name) && n.primitives.some((p) => p.slot !== 'crate-wood'),
  )!
  return { done, files, mesh, card, work }
}

describe('a card as the last level', () => {
  it('is two triangles for each card, as high as the mesh, through its middle', async () => {
    const { done, card, mesh } = await carded({ cards: 3 })
    expect(done.said).toBe('LOD 1: 3 cards, 6 triangles')
    expect(card.primitives.map((p) => p.triangles)).toEqual([6])
    const finest = mesh.nodes!.find((n) => n.primitives.some((p) => p.slot === 'crate-wood'))!
    expect([card.bounds!.min[1], card.bounds!.max[1]]).toEqual([finest.bounds!.min[1], finest.bounds!.max[1]])
    for (const axis of [0, 2] as const)
      expect(card.bounds!.min[axis] + card.bounds!.max[axis]).toBeCloseTo(
        finest.bounds!.min[axis] + finest.bounds!.max[axis],
        5,
      )
  })
  it('has a cutout slot named like the others, with two textures beside theirs', async () => {
    const { mesh, files } = await carded({ cards: 2 })
    const slot = mesh.slots!.find((s) => s.name === 'crate-card')!
    expect(slot).toMatchObject({ alphaMode: 'cutout', doubleSided: true, surface: 'card' })
    expect(slot.textures.map((t) => t.input)).toEqual(['basecolor', 'normal'])
    const made = files.filter((f) => f.path.includes('_card_')).map((f) => f.path.split('/').at(-1))
    expect(made).toEqual(['harbour_crate_a_card_basecolor.png', 'harbour_crate_a_card_normal.png'])
  })
  it('shows the first card once more in a cell of the sheet that is over', async () => {
    const { work } = await carded({ cards: 3 })
    for (const name of ['harbour_crate_a_card_basecolor.png', 'harbour_crate_a_card_normal.png']) {
      const { data, width, channels } = await decoded(work.textures.find((t) => t.name === name)!.bytes)
      const cell = (x: number, y: number): number[] =>
        Array.from({ length: 32 }, (_, row) => [
          ...data.subarray(((y + row) * width + x) * channels, ((y + row) * width + x + 32) * channels),
        ]).flat()
      expect(cell(32, 32)).toEqual(cell(0, 0))
      expect(new Set(cell(0, 0)).size).toBeGreaterThan(1)
    }
  })
  it('comes behind the levels that are there', async () => {
    const { done, card } = await carded({ cards: 1 }, { levels: 3 })
    expect(done.said).toBe('LOD 3: 1 card, 2 triangles')
    expect(card.name).toBe('harbour_crate_a_lod3')
  })
  it('may have a slot of its own and be narrower than the finest', async () => {
    const { files } = await carded({ cards: 3 }, { folder: 'foliage', wedge: 'Y' })
    const [subject] = await subjectsOf(Object.fromEntries(files.map((f) => [f.path, f.bytes])))
    const rules = judge(subject!).findings.map((f) => f.rule)
    expect(rules.filter((r) => /^lods\/(slots|bounds|missing)$/.test(r))).toEqual([])
  })
  it('leaves out cards that would have no width, and is refused where nothing stands', async () => {
    const flat = (turn: 'upright' | 'lying') => {
      const document = new Document(),
        buffer = document.createBuffer()
      const places = turn === 'upright' ? [0, 0, 0, 1, 0, 0, 0, 1, 0] : [0, 0, 0, 1, 0, 0, 0, 0, 1]
      const primitive = document
        .createPrimitive()
        .setAttribute(
          'POSITION',
          document.createAccessor().setType('VEC3').setArray(Float32Array.from(places)).setBuffer(buffer),
        )
        .setIndices(
          document
            .createAccessor()
            .setArray(Uint16Array.from([0, 1, 2]))
            .setBuffer(buffer),
        )
      const node = document.createNode('leaf').setMesh(document.createMesh().addPrimitive(primitive))
      document.createScene().addChild(node)
      return Object.assign(workOf(document), { name: 'leaf', textures: [], missing: [] })
    }
    expect((await mend(flat('upright'), 'lods/make-card', { cards: 2, texels: 32 })).said).toBe(
      'LOD 1: 1 card, 2 triangles',
    )
    await expect(mend(flat('lying'), 'lods/make-card', { texels: 32 })).rejects.toThrow('upright')
  })
  it('is refused for what bends with bones', async () => {
    const work = await openedCrate({ hull: false, skin: { bones: 2 } })
    const done = mend(work, 'lods/make-card', {})
    await expect(done).rejects.toThrow('bones')
  })
})
