import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { floatsOf, openWork } from '@stern-gate/core'
import { libraryReaders } from '../libraryReaders'
import { measureFile } from '../measureFile'
import { binaryFbx, fbxBox, fbxNode, textFbx, type FbxNode } from './fbxFixture'

const measure = (path: string, bytes: Uint8Array) =>
  measureFile(path, bytes, { find: () => null, progress: () => undefined, thumbnail: false })
async function factsOf(path: string, bytes: Uint8Array): Promise<MeshFacts> {
  const { measured } = await measure(path, bytes)
  if (measured.facts?.kind !== 'mesh') throw new Error(JSON.stringify(measured.fault))
  return measured.facts
}
const about = (v: readonly number[]) => v.map((n) => expect.closeTo(n, 5) as number)

describe.each([
  ['text', textFbx],
  ['binary', binaryFbx],
] as const)('FBX as %s', (_, write) => {
  it('is in metres with Y up, whatever it declares', async () => {
    // 2 × 4 × 1, ten units above the ground; Z up in centimetres: 2 cm wide, 1 cm high, 4 cm deep
    const facts = await factsOf('box.fbx', write(fbxBox({ upAxis: 2, unit: 1 })))
    const lid = facts.nodes!.find((n) => n.name === 'box lid')!
    expect([lid.bounds!.min, lid.bounds!.max, lid.translation, lid.scale, lid.rotation]).toEqual([
      about([-0.01, 0.1, -0.02]),
      about([0.01, 0.11, 0.02]),
      about([0, 0.1, 0]),
      about([1, 1, 1]),
      about([0, 0, 0, 1]),
    ])
    expect(lid.topology).toMatchObject({
      points: 8,
      openEdges: 0,
      insideOut: 0,
      volume: expect.closeTo(8e-6, 9) as number,
    })
    expect(facts.file).toMatchObject({
      format: 'fbx',
      generator: 'made by hand',
      declared: { unitMetres: 0.01, upAxis: 'z' },
      lost: [],
    })
    expect(lid.primitives[0]).toMatchObject({
      triangles: 12,
      slot: 'wood',
      uvChannels: [{ min: [0, 0.75], max: [1, 1] }],
    })
    expect(facts.file.images.map((i) => i.uri)).toEqual(['box_wood.png'])
    expect(facts.slots![0]!.textures).toMatchObject([{ input: 'basecolor', image: 0 }])
  })
  it('in metres with Y up is taken as it stands', async () => {
    const lid = (await factsOf('box.fbx', write(fbxBox({ upAxis: 1, unit: 100 })))).nodes!.find(
      (n) => n.name === 'box lid',
    )!
    expect([lid.bounds!.min, lid.bounds!.max]).toEqual([about([-1, -2, 10]), about([1, 2, 11])])
  })
  it('keeps shape targets, turned and scaled as the points are', async () => {
    const bytes = write(fbxBox({ upAxis: 2, unit: 1, shape: true }))
    expect((await factsOf('box.fbx', bytes)).file.lost).toEqual([])
    const work = await openWork(
      'box',
      'mesh',
      'box.fbx',
      [{ path: 'box.fbx', part: 'mesh', bytes }],
      libraryReaders,
    )
    if (!work.ok) throw new Error(work.fault.why)
    const mesh = work.value
      .document!.getRoot()
      .listMeshes()
      .find((m) => m.getName() === 'box lid')!
    expect(mesh.getExtras()).toEqual({ targetNames: ['raised'] })
    const [primitive] = mesh.listPrimitives(),
      [target] = primitive!.listTargets()
    const places = floatsOf(primitive!.getAttribute('POSITION')!),
      moves = floatsOf(target!.getAttribute('POSITION')!)
    expect(moves.length).toBe(places.length)
    // Half a centimetre up, at the two corners with the least y of the file: the greatest z of glTF
    for (let v = 0; v < places.length; v += 3)
      expect([...moves.subarray(v, v + 3)]).toEqual(
        about([0, places[v + 1]! > 0.005 && places[v + 2]! > 0 ? 0.005 : 0, 0]),
      )
  })
  it('without a mesh is refused', async () => {
    const empty: FbxNode[] = [
      ...fbxBox({ upAxis: 1, unit: 1 }).slice(0, 2),
      fbxNode(
        'Objects',
        [],
        [
          fbxNode(
            'Model',
            [{ long: 200 }, 'a\u0000\u0001Model', 'Null'],
            [fbxNode('Version', [{ int: 232 }])],
          ),
        ],
      ),
      fbxNode('Connections', [], [fbxNode('C', ['OO', { long: 200 }, { long: 0 }])]),
    ]
    expect((await measure('a.fbx', write(empty))).measured.fault?.code).toBe('mesh/nothing-drawn')
  })
  it('changed and cut bytes give facts or a coded fault, never a throw (seeded)', async () => {
    const good = write(fbxBox({ upAxis: 2, unit: 1 }))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        fc.option(fc.nat(good.length), { freq: 3 }),
        async (flips, cut) => {
          const bytes = good.slice(0, cut ?? good.length)
          for (const [at, value] of flips) if (at < bytes.length) bytes[at] = value
          const { measured } = await measure('a.fbx', bytes)
          expect(measured.facts !== null || measured.fault !== null).toBe(true)
        },
      ),
      { numRuns: 120, seed: 20261125 },
    )
  })
})

const dae = (unit: string, axis: string): string => `<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><contributor><authoring_tool>made by hand</authoring_tool></contributor>${unit}${axis}</asset>
<library_images><image id="i"><init_from>maps/ramp_wood.png</init_from></image></library_images>
<library_effects><effect id="e"><profile_COMMON><newparam sid="s"><surface type="2D"><init_from>i</init_from></surface></newparam><newparam sid="t"><sampler2D><source>s</source></sampler2D></newparam>
<technique sid="common"><lambert><diffuse><texture texture="t" texcoord="UVMap"/></diffuse></lambert></technique></profile_COMMON></effect></library_effects>
<library_materials><material id="m" name="wood"><instance_effect url="#e"/></material></library_materials>
<library_geometries><geometry id="g" name="ramp"><mesh>
<source id="p"><float_array id="pa" count="12">0 0 0 2 0 0 2 3 0 0 3 1</float_array><technique_common><accessor source="#pa" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
<source id="u"><float_array id="ua" count="8">0 0 1 0 1 1 0 1</float_array><technique_common><accessor source="#ua" count="4" stride="2"><param name="S" type="float"/><param name="T" type="float"/></accessor></technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
<triangles count="2" material="w"><input semantic="VERTEX" source="#v" offset="0"/><input semantic="TEXCOORD" source="#u" offset="1"/><p>0 0 1 1 2 2 0 0 2 2 3 3</p></triangles>
</mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="sc"><node id="n" name="ramp_low" type="NODE"><translate>0 0 5</translate><instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="w" target="#m"/></technique_common></bind_material></instance_geometry></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#sc"/></scene>
</COLLADA>
`

describe('COLLADA', () => {
  it('in inches with Z up is in metres with Y up', async () => {
    const facts = await factsOf(
      'r/ramp.dae',
      new TextEncoder().encode(dae('<unit name="inch" meter="0.0254"/>', '<up_axis>Z_UP</up_axis>')),
    )
    const node = facts.nodes!.find((n) => n.primitives.length > 0)!
    expect([node.name, node.bounds!.min, node.bounds!.max]).toEqual([
      'ramp_low',
      about([0, 5 * 0.0254, -3 * 0.0254]),
      about([2 * 0.0254, 6 * 0.0254, 0]),
    ])
    expect(facts.file).toMatchObject({
      format: 'dae',
      generator: 'made by hand',
      declared: { unitMetres: 0.0254, upAxis: 'z' },
      images: [{ uri: 'r/maps/ramp_wood.png' }],
    })
    expect(node.primitives[0]).toMatchObject({ triangles: 2, slot: 'wood' })
  })
  it('without unit and axis says so and takes metres with Y up', async () => {
    const facts = await factsOf('ramp.dae', new TextEncoder().encode(dae('', '')))
    expect(facts.file.declared).toEqual({ unitMetres: null, upAxis: null })
    expect(facts.nodes!.find((n) => n.primitives.length > 0)!.bounds).toEqual({
      min: [0, 0, 5],
      max: [2, 3, 6],
    })
  })
  it('cut short, or of other XML, is refused', async () => {
    const bytes = new TextEncoder().encode(dae('', ''))
    expect((await measure('a.dae', bytes.subarray(0, 900))).measured.fault?.code).toBe('mesh/truncated')
    expect((await measure('a.dae', new TextEncoder().encode('<svg></svg>'))).measured.fault?.code).toBe(
      'mesh/bad-structure',
    )
  })
  it('with changed words gives facts or a coded fault, never a throw (seeded)', async () => {
    const good = new TextEncoder().encode(dae('', ''))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(good.length - 30), fc.integer({ min: 32, max: 126 })), {
          minLength: 1,
          maxLength: 6,
        }),
        async (flips) => {
          const bytes = good.slice()
          for (const [at, value] of flips) bytes[at] = value
          const { measured } = await measure('a.dae', bytes)
          expect(measured.facts !== null || measured.fault !== null).toBe(true)
        },
      ),
      { numRuns: 60, seed: 20261125 },
    )
  })
})
