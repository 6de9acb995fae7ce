import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { pixelsOf, pngOf } from '../../fixtures/pngFixture'
import { judge } from '../../judge/judge'
import { readMtl } from './readMtl'
import { readObj } from './readObj'
import { readPly } from './readPly'
import { isTextStl, readStl } from './readStl'
import { TextCursor } from './textCursor'

const text = (value: string): Uint8Array => new TextEncoder().encode(value)
const codeOf = (result: { ok: boolean; fault?: { code: string } }): string =>
  result.ok ? 'ok' : result.fault!.code
const factsOf = async (files: Record<string, Uint8Array>, path: string): Promise<MeshFacts> => {
  const file = (await measureFixture(files)).find((f) => f.path === path)!
  if (file.facts?.kind !== 'mesh') throw new Error(JSON.stringify(file.fault))
  return file.facts
}

// A box of 2 × 1 × 4 on the ground, six quads over eight places, corners counted from 1
const corners = [
  [-1, 0, -2],
  [1, 0, -2],
  [1, 1, -2],
  [-1, 1, -2],
  [-1, 0, 2],
  [1, 0, 2],
  [1, 1, 2],
  [-1, 1, 2],
] as const
const quads = [
  [1, 4, 3, 2],
  [5, 6, 7, 8],
  [1, 5, 8, 4],
  [2, 3, 7, 6],
  [4, 8, 7, 3],
  [1, 2, 6, 5],
] as const
const boxObj = `# made by hand\nmtllib box lid.mtl\no box\n${corners.map((c) => `v ${c.join(' ')}`).join('\n')}\nvt 0 0\nvt 1 0\nvt 1 0.25\nvt 0 0.25\nusemtl wood\n${quads.map((q) => `f ${q.map((c, i) => `${c}/${i + 1}`).join(' ')}`).join('\n')}\n`
const triangles = quads
  .flatMap(([a, b, c, d]) => [
    [a, b, c],
    [a, c, d],
  ])
  .map((t) => t.map((i) => corners[i - 1]!))

describe('numbers in text', () => {
  it.each([
    ['1.5', 1.5],
    ['-0.25e2', -25],
    ['+7', 7],
    ['.5', 0.5],
    ['3.', 3],
    ['1e-3', 0.001],
    ['123456789012345678', 123456789012345678],
    ['nan', NaN],
    ['-inf', -Infinity],
    ['1.#IND', NaN],
    ['1e400', Infinity],
    ['1e-400', 0],
  ])('%s', (written, value) => {
    const read = new TextCursor(text(written)).number()
    if (Number.isFinite(value) && value !== 0) expect(read / value).toBeCloseTo(1, 12)
    else expect(read).toBe(value)
  })
  it('are read to the last bit that a float keeps', () => {
    fc.assert(
      fc.property(fc.float({ noNaN: true, noDefaultInfinity: true }), (value) => {
        expect(Math.fround(new TextCursor(text(String(value))).number()) === value).toBe(true)
      }),
      { numRuns: 400, seed: 5 },
    )
  })
})

describe('OBJ', () => {
  it('gives bounds, triangles, vertices, slots, UVs and names', async () => {
    const facts = await factsOf(
      {
        'a/box.obj': text(boxObj),
        'a/box lid.mtl': text(
          'newmtl wood\nKd 1 0 0\nmap_Kd -s 1 1 1 maps\\box wood.png\nnorm maps/box_normal.png\nd 0.5\n',
        ),
      },
      'a/box.obj',
    )
    expect(facts.nodes!.map((n) => [n.name, n.bounds])).toEqual([
      ['box', { min: [-1, 0, -2], max: [1, 1, 2] }],
    ])
    const [primitive] = facts.nodes![0]!.primitives
    // Six quads, as the file has them
    expect(facts.file.polygons).toBe(6)
    // 24 corners, of which (1, 1) comes three times and (7, 3) three times
    expect([primitive!.triangles, primitive!.vertices, primitive!.area, primitive!.slot]).toEqual([
      12,
      20,
      28,
      'wood',
    ])
    expect(facts.nodes![0]!.topology).toMatchObject({
      points: 8,
      openEdges: 0,
      insideOut: 0,
      volume: expect.closeTo(8, 5) as number,
    })
    expect(primitive!.uvChannels[0]).toMatchObject({ min: [0, 0.75], max: [1, 1] })
    expect(facts.file).toMatchObject({
      format: 'obj',
      generator: 'made by hand',
      declared: { unitMetres: null, upAxis: null },
      companions: [{ uri: 'a/box lid.mtl' }],
      lost: [],
    })
    expect(facts.file.images.map((i) => i.uri)).toEqual(['a/maps/box wood.png', 'a/maps/box_normal.png'])
    expect(facts.slots![0]).toMatchObject({
      name: 'wood',
      baseColour: [1, 1, 1, 0.5],
      alphaMode: 'blend',
      textures: [{ input: 'basecolor' }, { input: 'normal' }],
    })
  })
  it('names what did not come, the library too, and its verdict says so', async () => {
    const [subject] = await subjectsOf({ 'a/box.obj': text(boxObj) })
    expect(
      judge(subject!)
        .findings.filter((f) => f.rule === 'files/missing-reference')
        .map((f) => [f.message, f.place]),
    ).toEqual([['library', { kind: 'file', file: 'a/box lid.mtl' }]])
  })
  it('counts backwards, joins lines, parts by group, takes colours and passes over what is no face', async () => {
    const facts = await factsOf(
      {
        'b.obj': text(
          'g left\nv 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 1\nf -3 -2 \\\n-1\ng right\nv 5 0 0\nv 6 0 0\nv 5 1 0\nf 4 5 6\nl 1 2\nl 2 3\ns 1\n',
        ),
      },
      'b.obj',
    )
    expect(facts.nodes!.map((n) => [n.name, n.primitives[0]!.triangles, n.bounds!.max[0]])).toEqual([
      ['left', 1, 1],
      ['right', 1, 6],
    ])
    expect(facts.nodes![0]!.primitives[0]!.colours[0]!.max.map((v) => Math.round(v))).toEqual([1, 1, 1, 1])
    expect(facts.file.lost).toEqual(['2 × l'])
  })
  it('becomes a GLB by its recipe, with the textures it asked for', async () => {
    const files = {
      'box.obj': text(boxObj),
      'box lid.mtl': text('newmtl wood\nmap_Kd box_basecolor.png\n'),
      'box_basecolor.png': pngOf(pixelsOf(4, 4, 3, () => [9, 80, 7])),
    }
    const [subject] = await subjectsOf(files)
    expect(subject!.files.map((f) => [f.path, f.part])).toEqual([
      ['box.obj', 'mesh'],
      ['box lid.mtl', 'buffer'],
      ['box_basecolor.png', 'texture'],
    ])
    expect(subject!.textures[0]!.uses).toMatchObject([{ slot: 'wood', input: 'basecolor' }])
  })
  it.each([
    ['a face beyond the places', 'v 0 0 0\nv 1 0 0\nf 1 2 3\n', 'mesh/out-of-bounds'],
    ['a face of words', 'v 0 0 0\nf a b c\n', 'mesh/out-of-bounds'],
    ['a place cut short', 'v 0 0\n', 'mesh/bad-structure'],
    ['no face', 'v 0 0 0\n', 'mesh/nothing-drawn'],
    ['nothing', '', 'mesh/nothing-drawn'],
  ])('%s is refused', (_, obj, code) => expect(codeOf(readObj(text(obj), 'a.obj', () => null))).toBe(code))
})

describe('material libraries', () => {
  it('give values, roughness by the exponent, and what is lost', () => {
    const { slots, lost } = readMtl(
      text(
        '# x\nnewmtl a b\nKd 0.5 0.5 0.5\nNs 30\nPm 0.25\nmap_Ks s.png\nnewmtl c\nPr 0.3\nmap_Bump -bm 0.4 n map.png\nTr 0.75\n',
      ),
    )
    expect(slots.map((s) => [s.name, s.metallic, s.alphaMode])).toEqual([
      ['a b', 0.25, 'OPAQUE'],
      ['c', 0, 'BLEND'],
    ])
    // (2 / 32) ^ ¼ = ½; sRGB ½ is 0.2140 in linear light
    expect([
      slots[0]!.roughness,
      slots[0]!.baseColour[0],
      slots[1]!.baseColour[3],
      slots[1]!.roughness,
    ]).toEqual([0.5, expect.closeTo(0.214, 3), 0.25, 0.3])
    expect([slots[1]!.textures.normal, lost]).toEqual([
      'n map.png',
      ['map_ks: a map that has no place in a slot'],
    ])
  })
})

function binaryStl(head = 'made by hand'): Uint8Array {
  const bytes = new Uint8Array(84 + triangles.length * 50),
    view = new DataView(bytes.buffer)
  bytes.set(text(head))
  view.setUint32(80, triangles.length, true)
  triangles.forEach((t, i) => t.flat().forEach((v, k) => view.setFloat32(84 + i * 50 + 12 + k * 4, v, true)))
  return bytes
}
const textStl = `solid lid\n${triangles.map((t) => `facet normal 0 0 0\nouter loop\n${t.map((v) => `vertex ${v.join(' ')}`).join('\n')}\nendloop\nendfacet`).join('\n')}\nendsolid lid\n`

describe('STL', () => {
  it.each([
    ['binary', binaryStl()],
    ['binary that begins like text', binaryStl('solid but binary')],
    ['text', text(textStl)],
    ['text after blanks', text(` \n${textStl}`)],
    ['text after a byte order mark', text(`\ufeff${textStl}`)],
    [
      'text with facets on one line',
      text(
        textStl
          .replaceAll('\n', ' ')
          .replaceAll('endfacet ', 'endfacet\r\n')
          .replace('lid facet', 'lid\r\nfacet'),
      ),
    ],
    ['text without normals', text(textStl.replaceAll('facet normal 0 0 0', 'facet normal'))],
    ['two solids', text(textStl.replace('endfacet\n', 'endfacet\nendsolid lid\nsolid facet of the rest\n'))],
  ])('%s gives the box', async (_, bytes) => {
    const facts = await factsOf({ 'box.stl': bytes }, 'box.stl')
    expect(facts.nodes![0]).toMatchObject({
      bounds: { min: [-1, 0, -2], max: [1, 1, 2] },
      topology: { points: 8, openEdges: 0, insideOut: 0 },
    })
    expect(facts.nodes![0]!.primitives[0]).toMatchObject({
      triangles: 12,
      vertices: 8,
      area: 28,
      normals: null,
      uvChannels: [],
    })
  })
  it('tells text from binary by its length', () =>
    expect([isTextStl(text(textStl)), isTextStl(binaryStl('solid x'))]).toEqual([true, false]))
  it.each([
    ['binary cut short', binaryStl().subarray(0, 300), 'mesh/truncated'],
    ['text cut short', text(textStl.split('\n').slice(0, 12).join('\n')), 'mesh/truncated'],
    ['text without its last line', text(textStl.replace('endsolid lid\n', '')), 'mesh/truncated'],
    [
      'a facet of four corners',
      text(textStl.replace('endloop', 'vertex 0 0 0\nendloop')),
      'mesh/bad-structure',
    ],
    [
      'a corner of two numbers',
      text(textStl.replace(/vertex (\S+) (\S+) \S+/, 'vertex $1 $2')),
      'mesh/bad-structure',
    ],
    ['words', text('solid a\nhello there\nendsolid'), 'mesh/bad-structure'],
    ['an empty solid', text('solid a\nendsolid a\n'), 'mesh/nothing-drawn'],
  ])('%s is refused', (_, bytes, code) => expect(codeOf(readStl(bytes, 'a.stl'))).toBe(code))
})

const plyHead = (format: string): string =>
  `ply\nformat ${format} 1.0\ncomment made by hand\ncomment TextureFile box.png\nelement vertex 8\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nproperty float s\nproperty float t\nproperty float quality\nelement face 6\nproperty list uchar int vertex_indices\nend_header\n`
const textPly = text(
  `${plyHead('ascii')}${corners.map((c) => `${c.join(' ')} 255 0 51 0.5 0.25 1`).join('\n')}\n${quads.map((q) => `4 ${q.map((c) => c - 1).join(' ')}`).join('\n')}\n`,
)
function binaryPly(little: boolean): Uint8Array {
  const head = text(plyHead(little ? 'binary_little_endian' : 'binary_big_endian')),
    bytes = new Uint8Array(head.length + 8 * 27 + 6 * 17),
    view = new DataView(bytes.buffer)
  bytes.set(head)
  corners.forEach((c, i) => {
    const at = head.length + i * 27
    c.forEach((v, k) => view.setFloat32(at + k * 4, v, little))
    bytes.set([255, 0, 51], at + 12)
    ;[0.5, 0.25, 1].forEach((v, k) => view.setFloat32(at + 15 + k * 4, v, little))
  })
  quads.forEach((q, i) => {
    const at = head.length + 8 * 27 + i * 17
    bytes[at] = 4
    q.forEach((c, k) => view.setInt32(at + 1 + k * 4, c - 1, little))
  })
  return bytes
}

describe('PLY', () => {
  it.each([
    ['text', textPly],
    ['little-endian', binaryPly(true)],
    ['big-endian', binaryPly(false)],
  ])('%s gives the box, its colours, UVs and texture', async (_, bytes) => {
    const facts = await factsOf({ 'p/box.ply': bytes }, 'p/box.ply')
    expect(facts.nodes![0]).toMatchObject({
      name: 'box',
      bounds: { min: [-1, 0, -2], max: [1, 1, 2] },
      topology: { points: 8, openEdges: 0, insideOut: 0 },
    })
    const [primitive] = facts.nodes![0]!.primitives
    expect(primitive).toMatchObject({
      triangles: 12,
      vertices: 8,
      slot: 'box',
      uvChannels: [{ min: [0.5, 0.75], allSame: true }],
    })
    expect(primitive!.colours[0]!.min.map((v) => Math.round(v * 255))).toEqual([255, 0, 51, 255])
    expect(facts.file).toMatchObject({
      generator: 'made by hand',
      lost: ['of each vertex: quality'],
      polygons: 6,
      images: [{ uri: 'p/box.png' }],
    })
  })
  it.each([
    ['cut short', binaryPly(true).subarray(0, 500), 'mesh/truncated'],
    ['a head cut short', textPly.subarray(0, 90), 'mesh/truncated'],
    [
      'a count of four billion',
      text(plyHead('ascii').replace('vertex 8', 'vertex 4000000000')),
      'mesh/truncated',
    ],
    [
      'a face beyond the vertices',
      text(new TextDecoder().decode(textPly).replace(/4 0 3 2 1/, '4 0 3 2 91')),
      'mesh/out-of-bounds',
    ],
    ['an unknown format', text('ply\nformat odd 1.0\nend_header\n'), 'mesh/bad-structure'],
    [
      'no vertices',
      text('ply\nformat ascii 1.0\nelement face 0\nproperty list uchar int vertex_indices\nend_header\n'),
      'mesh/bad-structure',
    ],
  ])('%s is refused', (_, bytes, code) => expect(codeOf(readPly(bytes, 'a.ply'))).toBe(code))
})

it.each([
  ['obj', text(boxObj)],
  ['stl', binaryStl()],
  ['stl', text(textStl)],
  ['ply', textPly],
  ['ply', binaryPly(true)],
])(
  '%s: flipped, cut and doubled bytes give facts or a coded fault, never a throw (seeded)',
  async (extension, good) => {
    const change = fc.oneof(
      fc.record({ at: fc.nat(good.length - 1), value: fc.nat(255) }),
      fc.record({ cut: fc.nat(good.length) }),
      fc.record({ from: fc.nat(good.length - 1), more: fc.nat(64) }),
    )
    await fc.assert(
      fc.asyncProperty(fc.array(change, { minLength: 1, maxLength: 8 }), async (changes) => {
        let bytes = good.slice()
        for (const c of changes) {
          if ('at' in c) bytes[Math.min(c.at, bytes.length - 1)] = c.value
          else if ('cut' in c) bytes = bytes.slice(0, c.cut)
          else bytes = Uint8Array.from([...bytes.subarray(0, c.from + c.more), ...bytes.subarray(c.from)])
        }
        const [measured] = await measureFixture({ [`a.${extension}`]: bytes })
        expect(measured!.facts !== null || measured!.fault !== null || measured!.kind === 'unknown').toBe(
          true,
        )
      }),
      { numRuns: 200, seed: 20261125 },
    )
  },
)
