import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { measureFile } from './measureFile'
import { binaryFbx, fbxBox, fbxNode, textFbx, type FbxNode } from './translate/fbxFixture'
import { trianglesOf } from './translate/triangleStrips'

// What real files hold that is not quite as the formats have it: read where it can be, and said

const measure = async (path: string, bytes: Uint8Array | string) =>
  (
    await measureFile(path, typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes, {
      find: () => null,
      progress: () => undefined,
      thumbnail: false,
    })
  ).measured
async function meshFacts(path: string, bytes: Uint8Array | string): Promise<MeshFacts> {
  const { facts, fault } = await measure(path, bytes)
  if (facts?.kind !== 'mesh') throw new Error(JSON.stringify(fault))
  return facts
}
const triangles = (facts: MeshFacts): number =>
  facts.nodes!.flatMap((n) => n.primitives).reduce((sum, p) => sum + p.triangles, 0)

describe('texts of other encodings', () => {
  const obj = 'o Fähre\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'
  const utf16 = (text: string, little: boolean): Uint8Array => {
    const out = new Uint8Array(2 + text.length * 2),
      view = new DataView(out.buffer)
    view.setUint16(0, 0xfeff, little)
    for (let k = 0; k < text.length; k++) view.setUint16(2 + k * 2, text.charCodeAt(k), little)
    return out
  }
  const gltf = JSON.stringify({
    asset: { version: '2.0' },
    scenes: [{ nodes: [0] }],
    nodes: [{ name: 'Fähre', mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
    accessors: [
      { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
    ],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    buffers: [
      {
        byteLength: 36,
        uri: `data:;base64,${Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64')}`,
      },
    ],
  })
  it.each([
    ['a.obj', obj],
    ['a.gltf', gltf],
  ])('%s in UTF-16 of either order, and with a mark of UTF-8, is the same as plain', async (path, text) => {
    const plain = await meshFacts(path, text)
    expect([triangles(plain), plain.nodes!.map((n) => n.name)]).toEqual([1, ['Fähre']])
    const mark = new Uint8Array([0xef, 0xbb, 0xbf, ...new TextEncoder().encode(text)])
    for (const bytes of [utf16(text, true), utf16(text, false), mark])
      expect((await meshFacts(path, bytes)).nodes).toEqual(plain.nodes)
  })
})

describe('OBJ and PLY', () => {
  it('a face whose vertices are not there is left out and said; the others are read', async () => {
    const facts = await meshFacts(
      'a.obj',
      'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1 2 9\nf 1 3 4\nf 1 2 3 77\n',
    )
      .then((f) => f)
      .catch((e: unknown) => e as never)
    expect(triangles(facts)).toBe(2)
    expect(facts.file.lost).toEqual(['2 faces whose vertices are not there (line 6, 8)'])
  })
  it('more of those than of others refuse the file, with the first line', async () => {
    const { fault } = await measure('a.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\nf 4 5 6\nf 7 8 9\n')
    expect([fault!.code, fault!.where.part]).toEqual(['mesh/out-of-bounds', 'line 5'])
  })
  it('unknown lines in the head of a PLY are passed over and counted', async () => {
    const facts = await meshFacts(
      'a.ply',
      'ply\nformat ascii 1.0\nauthor somebody\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nscale 2\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n',
    )
    expect(triangles(facts)).toBe(1)
    expect(facts.file.lost).toEqual(['2 × unknown line in the head'])
  })
})

describe('FBX', () => {
  const withNodes = (
    into: 'Objects' | 'Connections',
    nodes: FbxNode[],
    tree = fbxBox({ upAxis: 1, unit: 100 }),
  ) => tree.map((n) => (n.name === into ? { ...n, nodes: [...n.nodes, ...nodes] } : n))
  const id = (n: number) => ({ long: n })
  const connect = (...values: FbxNode['values']) => fbxNode('C', values)

  it.each([
    ['text', textFbx],
    ['binary', binaryFbx],
  ] as const)('as %s with a camera in it is read, and the camera is said to be lost', async (_, write) => {
    const tree = withNodes(
      'Connections',
      [connect('OO', id(701), id(700)), connect('OO', id(700), id(0))],
      withNodes('Objects', [
        fbxNode('Model', [id(700), 'eye\u0000\u0001Model', 'Camera'], [fbxNode('Version', [{ int: 232 }])]),
        fbxNode(
          'NodeAttribute',
          [id(701), 'eye\u0000\u0001NodeAttribute', 'Camera'],
          [fbxNode('Properties70', [], [fbxNode('P', ['CameraProjectionType', 'enum', '', '', { int: 0 }])])],
        ),
      ]),
    )
    const facts = await meshFacts('box.fbx', write(tree))
    expect(triangles(facts)).toBe(12)
    expect(facts.file.lost).toEqual(['camera'])
  })
  it('with a clip whose layer moves nothing is read without its clips', async () => {
    const tree = withNodes(
      'Connections',
      [connect('OO', id(801), id(800)), connect('OO', id(803), id(801))],
      withNodes('Objects', [
        fbxNode(
          'AnimationStack',
          [id(800), 'take\u0000\u0001AnimStack', ''],
          [fbxNode('Version', [{ int: 1 }])],
        ),
        fbxNode(
          'AnimationCurve',
          [id(804), 'c\u0000\u0001AnimCurve', ''],
          [fbxNode('KeyTime', [{ ints: [0, 1] }]), fbxNode('KeyValueFloat', [{ doubles: [0, 1] }])],
        ),
      ]),
    )
    const facts = await meshFacts('box.fbx', binaryFbx(tree))
    expect([triangles(facts), facts.file.clips]).toEqual([12, []])
    expect(facts.file.lost).toEqual(['1 thing that the reader passed over'])
  })
  it('as text with an embedded picture cut into several lines keeps the whole picture', async () => {
    const png = pngOf(pixelsOf(16, 16, 3, (x, y) => [(x * 37) % 256, (y * 91) % 256, (x * y) % 256]))
    const base64 = Buffer.from(png).toString('base64'),
      pieces = base64.match(/.{1,60}/g)!
    expect(pieces.length).toBeGreaterThan(3)
    const tree = fbxBox({ upAxis: 1, unit: 100 })
    const text = new TextDecoder()
      .decode(textFbx(tree))
      .replace(
        /(\t+)(RelativeFilename: "box_wood\.png"\n\t*\})(?![\s\S]*RelativeFilename)/,
        (_, pad: string, rest: string) =>
          `${pad}Content: ,\n${pieces.map((p) => `${pad}\t"${p}"`).join(',\n')}\n${pad}${rest}`,
      )
    expect(text).toContain('Content')
    const { facts, embedded } = await measure('box.fbx', text)
    if (facts?.kind !== 'mesh') throw new Error('not read')
    expect(facts.file.images.map((i) => [i.embedded, i.sizeBytes])).toEqual([[true, png.length]])
    expect(Object.values(embedded)).toMatchObject([{ header: { width: 16, height: 16 } }])
  })
})

describe('COLLADA', () => {
  it('strips turn every second triangle, fans keep the first corner', () => {
    expect(trianglesOf('tristrips', [0, 1, 2, 3, 4], 1)).toEqual([0, 1, 2, 2, 1, 3, 2, 3, 4])
    expect(trianglesOf('trifans', [0, 1, 2, 3], 1)).toEqual([0, 1, 2, 0, 2, 3])
    // Two numbers a corner
    expect(trianglesOf('trifans', [0, 9, 1, 8, 2, 7], 2)).toEqual([0, 9, 1, 8, 2, 7])
    expect(trianglesOf('tristrips', [0, 1], 1)).toEqual([])
  })
  it.each([
    ['tristrips', '<p>0 1 2 3</p>', 2],
    ['trifans', '<p>0 1 2 3</p><p>0 1 3</p>', 3],
  ])('%s are read as triangles', async (kind, lists, count) => {
    const facts = await meshFacts(
      'a.dae',
      `<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit meter="1"/><up_axis>Y_UP</up_axis></asset>
<library_geometries><geometry id="g" name="sheet"><mesh>
<source id="p"><float_array id="pa" count="12">0 0 0 1 0 0 0 1 0 1 1 0</float_array><technique_common><accessor source="#pa" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
<${kind} count="1"><input semantic="VERTEX" source="#v" offset="0"/>${lists}</${kind}></mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node name="sheet"><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>\n\n`,
    )
    expect(triangles(facts)).toBe(count)
  })
})

describe('glTF', () => {
  const scene = (more: object = {}, primitive: object = {}) =>
    JSON.stringify({
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [{ name: 'sheet', mesh: 0 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, ...primitive }] }],
      accessors: [
        { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
      ],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [
        {
          byteLength: 36,
          uri: `data:;base64,${Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64')}`,
        },
      ],
      ...more,
    })
  it('an extension that is required and not known refuses nothing; it is named as lost', async () => {
    const required = ['EXT_mesh_features', 'EXT_structural_metadata', 'XYZ_anything']
    const facts = await meshFacts('a.gltf', scene({ extensionsUsed: required, extensionsRequired: required }))
    expect(triangles(facts)).toBe(1)
    expect(facts.file.extensionsLost).toEqual(required.filter((e) => facts.file.extensionsLost.includes(e)))
    expect(facts.file.extensionsLost).toContain('XYZ_anything')
  })
  it('one that packs the geometry in a way that is not known does refuse it', async () => {
    const packed = ['XYZ_mesh_compression']
    const { fault } = await measure('a.gltf', scene({ extensionsUsed: packed, extensionsRequired: packed }))
    expect(fault!.code).toBe('gltf/extension-not-read')
  })
  it('version 1.0 is said as such, with and without its number', async () => {
    const old = { meshes: { box: { primitives: [] } }, nodes: {}, scenes: {}, buffers: {} }
    for (const asset of [{ version: '1.0' }, {}]) {
      const { fault } = await measure('a.gltf', JSON.stringify({ asset, ...old }))
      expect(fault!.code).toBe('gltf/unsupported-version')
      expect(fault!.why).toContain('1.0')
    }
  })
  it.each([
    ['lines', scene({}, { mode: 1 })],
    [
      'an empty node',
      JSON.stringify({ asset: { version: '2.0' }, scenes: [{ nodes: [0] }], nodes: [{ name: 'a' }] }),
    ],
    ['nothing', JSON.stringify({ asset: { version: '2.0' } })],
  ])('a scene of %s draws no triangle, and is refused', async (_, text) => {
    expect((await measure('a.gltf', text)).fault?.code).toBe('mesh/nothing-drawn')
  })
})

describe('what a person is told', () => {
  it.each([
    ['a.fbx', binaryFbx([fbxNode('Objects', [], [])])],
    ['a.fbx', textFbx([fbxNode('Objects', [], [fbxNode('Geometry', [{ long: 1 }, 'x', 'Mesh'])])])],
    [
      'a.dae',
      '<COLLADA><library_geometries><geometry><mesh><triangles/></mesh></geometry></library_geometries></COLLADA>',
    ],
    [
      'a.gltf',
      '{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{}}]}],',
    ],
    ['a.stl', 'solid x\nfacet normal 0 0 1\nouter loop\n'],
  ])('of a broken %s holds no words of libraries or of the language', async (path, bytes) => {
    const { fault } = await measure(path, bytes)
    expect(fault).not.toBeNull()
    expect(`${fault!.why} ${fault!.hint}`).not.toMatch(
      /undefined|null|is not|cannot read|THREE|Error|TypeError|token|JSON\.parse|position \d/i,
    )
  })
})
