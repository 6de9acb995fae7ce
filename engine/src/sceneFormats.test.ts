import { describe, expect, it } from 'vitest'
import { defaultRulebook, planOf, partsByPlan, type TakenApart } from '@stern-gate/core'
import { boxOf, sceneFile } from '@stern-gate/core/fixtures'
import { measureFile } from './measureFile'
import { forApart } from './takeScenesApart'
import { takeSceneApart } from './sceneParts'
import { binaryFbx, fbxBox, fbxNode, type FbxNode } from './translate/fbxFixture'

const text = (s: string): Uint8Array => new TextEncoder().encode(s)

/** A crate of a metre at the origin, a second one of it four metres along X, and a post of another shape. */
const things = [
  { name: 'yard_crate_1', at: [0, 0, 0], size: [1, 1, 1] },
  { name: 'yard_crate_2', at: [4, 0, 0], size: [1, 1, 1] },
  { name: 'yard_post', at: [0, 0, 5], size: [0.2, 2, 0.2] },
] as const
type Thing = (typeof things)[number]

function cornersOf({ at, size }: Thing, moved: boolean): number[] {
  const { positions } = boxOf(1, [0, 0, 0], 1)
  return positions.map((v, k) => v * size[k % 3]! + (moved ? at[k % 3]! : 0))
}
const { indices } = boxOf(1, [0, 0, 0], 1)

/** OBJ has no nodes that move: where a thing stands is written into its points. */
function obj(): Uint8Array {
  const lines: string[] = []
  things.forEach((thing, i) => {
    lines.push(`o ${thing.name}`)
    const p = cornersOf(thing, true)
    for (let k = 0; k < p.length; k += 3) lines.push(`v ${p[k]} ${p[k + 1]} ${p[k + 2]}`)
    const first = 1 + i * 24
    for (let k = 0; k < indices.length; k += 3)
      lines.push(
        `f ${indices
          .slice(k, k + 3)
          .map((v) => v + first)
          .join(' ')}`,
      )
  })
  return text(lines.join('\n'))
}

/** COLLADA with a matrix a node; the crates share one geometry. */
function dae(): Uint8Array {
  const geometry = (id: string, thing: Thing): string => {
    const p = cornersOf(thing, false)
    return [
      `<geometry id="${id}" name="${id}"><mesh><source id="${id}-p">`,
      `<float_array id="${id}-a" count="${p.length}">${p.join(' ')}</float_array><technique_common>`,
      `<accessor source="#${id}-a" count="${p.length / 3}" stride="3">`,
      ...['X', 'Y', 'Z'].map((axis) => `<param name="${axis}" type="float"/>`),
      `</accessor></technique_common></source>`,
      `<vertices id="${id}-v"><input semantic="POSITION" source="#${id}-p"/></vertices>`,
      `<triangles count="${indices.length / 3}"><input semantic="VERTEX" source="#${id}-v" offset="0"/>`,
      `<p>${indices.join(' ')}</p></triangles></mesh></geometry>`,
    ].join('')
  }
  const node = ({ name, at: [x, y, z] }: Thing, of: string): string =>
    [
      `<node id="${name}" name="${name}" type="NODE">`,
      `<matrix>1 0 0 ${x} 0 1 0 ${y} 0 0 1 ${z} 0 0 0 1</matrix>`,
      `<instance_geometry url="#${of}"/></node>`,
    ].join('')
  return text(
    [
      '<?xml version="1.0"?>',
      '<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">',
      '<asset><unit meter="1" name="metre"/><up_axis>Y_UP</up_axis></asset>',
      `<library_geometries>${geometry('crate', things[0])}${geometry('post', things[2])}</library_geometries>`,
      '<library_visual_scenes><visual_scene id="s" name="s">',
      node(things[0], 'crate') + node(things[1], 'crate') + node(things[2], 'post'),
      '</visual_scene></library_visual_scenes>',
      '<scene><instance_visual_scene url="#s"/></scene></COLLADA>',
    ].join('\n'),
  )
}

/** The box of the fixture twice, under names of their own and four metres apart. */
function fbx(): Uint8Array {
  const id = (n: number) => ({ long: n })
  const tree = fbxBox({ upAxis: 1, unit: 100 })
  const more: Record<string, FbxNode[]> = {
    Objects: [
      fbxNode(
        'Model',
        [id(210), 'yard_box_2\u0000\u0001Model', 'Mesh'],
        [
          fbxNode('Version', [{ int: 232 }]),
          fbxNode(
            'Properties70',
            [],
            [
              fbxNode('P', [
                'Lcl Translation',
                'Lcl Translation',
                '',
                '',
                { double: 9 },
                { double: 0 },
                { double: 0 },
              ]),
            ],
          ),
        ],
      ),
    ],
    Connections: [
      fbxNode('C', ['OO', id(210), id(0)]),
      fbxNode('C', ['OO', id(100), id(210)]),
      fbxNode('C', ['OO', id(300), id(210)]),
    ],
  }
  return binaryFbx(tree.map((n) => ({ ...n, nodes: [...n.nodes, ...(more[n.name] ?? [])] })))
}

const glb = (): Promise<Uint8Array> =>
  sceneFile(
    things.map(({ name, at, size }) => ({ name, at: [...at], box: [...size], mesh: name.slice(0, 10) })),
  )

async function apart(path: string, bytes: Uint8Array): Promise<TakenApart> {
  const { measured } = await measureFile(path, bytes, {
    find: () => null,
    progress: () => undefined,
    thumbnail: false,
  })
  if (measured.facts?.kind !== 'mesh') throw new Error(measured.fault?.why ?? 'no mesh')
  const nodes = measured.facts.nodes!.map(forApart)
  const { parts } = partsByPlan(nodes, planOf('nodes'), 'yard', defaultRulebook)
  const taken = await takeSceneApart(
    { kind: 'apart', path, file: '', nodes, parts, plan: planOf('nodes') },
    bytes,
    () => null,
  )
  if (!taken.ok) throw new Error(taken.fault.why)
  return taken.value
}
const placesOf = (taken: TakenApart) =>
  taken.parts.map((p) => [
    p.part.name,
    p.placements.map((m) => m.matrix.slice(12, 15).map((v) => Math.round(v * 1e4) / 1e4)),
  ])

describe('a file of several objects is taken apart', () => {
  it.each([
    ['OBJ', 'a/yard.obj', obj],
    ['COLLADA', 'a/yard.dae', dae],
    ['GLB', 'a/yard.glb', glb],
  ] as const)(
    '%s: two crates are one asset with two placements, the post another',
    async (_, path, write) => {
      const taken = await apart(path, await write())
      expect(placesOf(taken)).toEqual([
        [
          'yard_crate',
          [
            [0, 0, 0],
            [4, 0, 0],
          ],
        ],
        ['yard_post', [[0, 0, 5]]],
      ])
      for (const file of taken.files) {
        const again = await measureFile(file.path, file.bytes, {
          find: () => null,
          progress: () => undefined,
          thumbnail: false,
        })
        expect([again.measured.fault, again.measured.kind]).toEqual([
          null,
          file.part === 'mesh' ? 'glb' : 'png',
        ])
      }
    },
  )
  it('FBX: a box that two nodes show is one asset with two placements', async () => {
    const taken = await apart('a/yard.fbx', fbx())
    expect(placesOf(taken)).toEqual([
      [
        'box lid',
        [
          [0, 0, 10],
          [9, 0, 0],
        ],
      ],
    ])
  })
})
