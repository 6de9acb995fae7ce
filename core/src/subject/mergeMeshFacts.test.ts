import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import { measureFixture } from '../fixtures/measureFixture'
import { mergeMeshFacts } from './mergeMeshFacts'

async function factsOf(name: string, slotName: string): Promise<MeshFacts> {
  const files = await crateFiles({ name, textureName: name, slotName })
  const mesh = (await measureFixture(files)).find((m) => m.path.endsWith('.glb'))!
  return mesh.facts as MeshFacts
}

describe('facts of several mesh files', () => {
  it('have the slots, images and nodes of all, each image with the number that its slot reads', async () => {
    const main = await factsOf('harbour_crate_a', 'crate-wood'),
      other = await factsOf('harbour_lid_a', 'lid-iron')
    const merged = mergeMeshFacts(main, [{ path: 'props/harbour_crate_a_lod1.glb', facts: other }])
    expect(merged.slots!.map((s) => s.name)).toEqual(['crate-wood', 'lid-iron'])
    expect(merged.slots!.map((s) => s.index)).toEqual([0, 1])
    const { images } = merged.file
    expect(images).toHaveLength(main.file.images.length + other.file.images.length)
    expect(images.map((i) => i.index)).toEqual(images.map((_, i) => i))
    // What each input of each slot reads is what it read in its own file
    for (const [slot, own] of [
      [merged.slots![0]!, main],
      [merged.slots![1]!, other],
    ] as const)
      for (const [i, { image }] of slot.textures.entries())
        expect(images[image!]!.name).toBe(own.file.images[own.slots![0]!.textures[i]!.image!]!.name)
    expect(new Set(merged.slots!.flatMap((s) => s.textures.map((t) => images[t.image!]!.name))).size).toBe(6)
  })
  it('hang what a further file holds under a node of its name', async () => {
    const main = await factsOf('harbour_crate_a', 'crate-wood')
    const merged = mergeMeshFacts(main, [{ path: 'x/harbour_crate_a_lod1.glb', facts: main }])
    const further = merged.nodes!.slice(main.nodes!.length)
    expect(further[0]).toMatchObject({ path: 'harbour_crate_a_lod1', mesh: null, parent: null })
    expect(further.slice(1).map((n) => n.path)).toEqual(
      main.nodes!.map((n) => `harbour_crate_a_lod1/${n.path}`),
    )
    expect(further[1]!.parent).toBe('harbour_crate_a_lod1')
    // One slot of one name stays one
    expect(merged.slots).toHaveLength(main.slots!.length)
    for (const { name, file } of merged.evidence.filter((e) => e.file === 'x/harbour_crate_a_lod1.glb'))
      expect([name.split(':')[1]!.startsWith('harbour_crate_a_lod1/'), file]).toEqual([
        true,
        'x/harbour_crate_a_lod1.glb',
      ])
  })
})
