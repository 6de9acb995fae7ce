/** A node of an FBX file: a value is a number (double), an integer, a long, a text or a list of numbers. */
export interface FbxNode {
  name: string
  values: FbxValue[]
  nodes: FbxNode[]
}
export type FbxValue =
  | string
  | { int: number }
  | { long: number }
  | { double: number }
  | { doubles: number[] }
  | { ints: number[] }

export const fbxNode = (name: string, values: FbxValue[] = [], nodes: FbxNode[] = []): FbxNode => ({
  name,
  values,
  nodes,
})
const int = (n: number): FbxValue => ({ int: n })
const property = (name: string, type: string, label: string, ...values: FbxValue[]): FbxNode =>
  fbxNode('P', [name, type, label, '', ...values])

// A box of 2 × 4 × 1 in the file's numbers, standing on the ground with Z up; corners counted from 0
const corners = [
  [-1, -2, 0],
  [1, -2, 0],
  [1, 2, 0],
  [-1, 2, 0],
  [-1, -2, 1],
  [1, -2, 1],
  [1, 2, 1],
  [-1, 2, 1],
]
const quads = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [2, 3, 7, 6],
  [0, 4, 7, 3],
  [1, 2, 6, 5],
]

export interface FbxBox {
  upAxis: number
  unit: number
  picture?: Uint8Array
  /** A shape target that lifts two corners of the lid by half a unit. */ shape?: boolean
}

/** The box as the tree of a file of version 7.4, with a slot, UVs and a texture. */
export function fbxBox({ upAxis, unit, shape = false }: FbxBox): FbxNode[] {
  const id = (n: number): FbxValue => ({ long: n })
  return [
    fbxNode(
      'FBXHeaderExtension',
      [],
      [fbxNode('FBXVersion', [int(7400)]), fbxNode('Creator', ['made by hand'])],
    ),
    fbxNode(
      'GlobalSettings',
      [],
      [
        fbxNode('Version', [int(1000)]),
        fbxNode(
          'Properties70',
          [],
          [
            property('UpAxis', 'int', 'Integer', int(upAxis)),
            property('UnitScaleFactor', 'double', 'Number', { double: unit }),
          ],
        ),
      ],
    ),
    fbxNode(
      'Objects',
      [],
      [
        fbxNode(
          'Geometry',
          [id(100), 'lid\u0000\u0001Geometry', 'Mesh'],
          [
            fbxNode('Vertices', [{ doubles: corners.flat() }]),
            fbxNode('PolygonVertexIndex', [
              { ints: quads.flatMap((q) => q.map((c, i) => (i === 3 ? -c - 1 : c))) },
            ]),
            fbxNode(
              'LayerElementUV',
              [int(0)],
              [
                fbxNode('Version', [int(101)]),
                fbxNode('Name', ['map']),
                fbxNode('MappingInformationType', ['ByPolygonVertex']),
                fbxNode('ReferenceInformationType', ['IndexToDirect']),
                fbxNode('UV', [{ doubles: [0, 0, 1, 0, 1, 0.25, 0, 0.25] }]),
                fbxNode('UVIndex', [{ ints: quads.flatMap(() => [0, 1, 2, 3]) }]),
              ],
            ),
            fbxNode(
              'LayerElementMaterial',
              [int(0)],
              [
                fbxNode('Version', [int(101)]),
                fbxNode('MappingInformationType', ['AllSame']),
                fbxNode('ReferenceInformationType', ['IndexToDirect']),
                fbxNode('Materials', [{ ints: [0] }]),
              ],
            ),
          ],
        ),
        ...(shape
          ? [
              fbxNode(
                'Geometry',
                [id(102), 'raised\u0000\u0001Geometry', 'Shape'],
                [
                  fbxNode('Version', [int(100)]),
                  fbxNode('Indexes', [{ ints: [4, 5] }]),
                  fbxNode('Vertices', [{ doubles: [0, 0, 0.5, 0, 0, 0.5] }]),
                ],
              ),
              fbxNode(
                'Deformer',
                [id(600), 'shapes\u0000\u0001Deformer', 'BlendShape'],
                [fbxNode('Version', [int(100)])],
              ),
              fbxNode(
                'Deformer',
                [id(601), 'raised\u0000\u0001SubDeformer', 'BlendShapeChannel'],
                [
                  fbxNode('Version', [int(100)]),
                  fbxNode('DeformPercent', [{ double: 0 }]),
                  fbxNode('FullWeights', [{ doubles: [100] }]),
                ],
              ),
            ]
          : []),
        fbxNode(
          'Model',
          [id(200), 'box lid\u0000\u0001Model', 'Mesh'],
          [
            fbxNode('Version', [int(232)]),
            fbxNode(
              'Properties70',
              [],
              [
                property(
                  'Lcl Translation',
                  'Lcl Translation',
                  '',
                  { double: 0 },
                  { double: 0 },
                  { double: 10 },
                ),
              ],
            ),
          ],
        ),
        fbxNode('Model', [id(201), 'lamp\u0000\u0001Model', 'Null'], [fbxNode('Version', [int(232)])]),
        fbxNode(
          'Material',
          [id(300), 'wood\u0000\u0001Material', ''],
          [
            fbxNode('Version', [int(102)]),
            fbxNode('ShadingModel', ['phong']),
            fbxNode(
              'Properties70',
              [],
              [property('DiffuseColor', 'Color', '', { double: 1 }, { double: 1 }, { double: 1 })],
            ),
          ],
        ),
        fbxNode(
          'Texture',
          [id(400), 'wood map\u0000\u0001Texture', ''],
          [fbxNode('FileName', ['C:\\art\\box_wood.png']), fbxNode('RelativeFilename', ['box_wood.png'])],
        ),
        fbxNode(
          'Video',
          [id(500), 'wood film\u0000\u0001Video', 'Clip'],
          [fbxNode('FileName', ['C:\\art\\box_wood.png']), fbxNode('RelativeFilename', ['box_wood.png'])],
        ),
      ],
    ),
    fbxNode(
      'Connections',
      [],
      [
        fbxNode('C', ['OO', id(200), id(0)]),
        fbxNode('C', ['OO', id(201), id(0)]),
        fbxNode('C', ['OO', id(100), id(200)]),
        fbxNode('C', ['OO', id(300), id(200)]),
        ...(shape
          ? [
              fbxNode('C', ['OO', id(600), id(100)]),
              fbxNode('C', ['OO', id(601), id(600)]),
              fbxNode('C', ['OO', id(102), id(601)]),
            ]
          : []),
        fbxNode('C', ['OP', id(400), id(300), 'DiffuseColor']),
        fbxNode('C', ['OO', id(500), id(400)]),
      ],
    ),
  ]
}

/** The tree as a text file. */
export function textFbx(nodes: readonly FbxNode[]): Uint8Array {
  const valueText = (value: FbxValue): string => {
    if (typeof value === 'string')
      return `"${value.includes('\u0000') ? value.split('\u0000\u0001').reverse().join('::') : value}"`
    if ('doubles' in value || 'ints' in value) return ''
    return String(Object.values(value)[0])
  }
  const write = (node: FbxNode, depth: number): string => {
    const pad = '\t'.repeat(depth),
      [first] = node.values
    if (typeof first === 'object' && ('doubles' in first || 'ints' in first)) {
      const list = 'doubles' in first ? first.doubles : first.ints
      return `${pad}${node.name}: *${list.length} {\n${pad}\ta: ${list.join(',')}\n${pad}}\n`
    }
    return `${pad}${node.name}: ${node.values.map(valueText).join(',')}${node.nodes.length > 0 ? ` {\n${node.nodes.map((n) => write(n, depth + 1)).join('')}${pad}}` : ''}\n`
  }
  return new TextEncoder().encode(
    `; FBX 7.4.0 project file\n; ${'-'.repeat(20)}\n\n${nodes.map((n) => write(n, 0)).join('\n')}`,
  )
}

/** The tree as a binary file of version 7.4 (records with 32-bit offsets). */
export function binaryFbx(nodes: readonly FbxNode[]): Uint8Array {
  const head = Buffer.concat([
    Buffer.from('Kaydara FBX Binary  \0', 'latin1'),
    Buffer.from([0x1a, 0x00]),
    u32(7400),
  ])
  const parts: Buffer[] = [head]
  let at = head.length
  for (const node of nodes) {
    const record = recordOf(node, at)
    parts.push(record)
    at += record.length
  }
  return new Uint8Array(Buffer.concat([...parts, Buffer.alloc(13), Buffer.alloc(180)]))
}

function u32(n: number): Buffer {
  const b = Buffer.alloc(4)
  b.writeUInt32LE(n)
  return b
}

function recordOf(node: FbxNode, at: number): Buffer {
  const values = Buffer.concat(node.values.map(binaryValue)),
    name = Buffer.from(node.name, 'latin1')
  const parts: Buffer[] = []
  let end = at + 13 + name.length + values.length
  for (const child of node.nodes) {
    const record = recordOf(child, end)
    parts.push(record)
    end += record.length
  }
  const tail = node.nodes.length > 0 ? Buffer.alloc(13) : Buffer.alloc(0)
  return Buffer.concat([
    u32(end + tail.length),
    u32(node.values.length),
    u32(values.length),
    Buffer.from([name.length]),
    name,
    values,
    ...parts,
    tail,
  ])
}

function binaryValue(value: FbxValue): Buffer {
  const typed = (letter: string, body: Buffer) => Buffer.concat([Buffer.from(letter), body])
  const list = (letter: string, body: Buffer, count: number) =>
    typed(letter, Buffer.concat([u32(count), u32(0), u32(body.length), body]))
  if (typeof value === 'string')
    return typed('S', Buffer.concat([u32(Buffer.byteLength(value)), Buffer.from(value)]))
  if ('doubles' in value)
    return list('d', Buffer.from(Float64Array.from(value.doubles).buffer), value.doubles.length)
  if ('ints' in value) return list('i', Buffer.from(Int32Array.from(value.ints).buffer), value.ints.length)
  if ('int' in value) return typed('I', Buffer.from(Int32Array.of(value.int).buffer))
  if ('long' in value) return typed('L', Buffer.from(BigInt64Array.of(BigInt(value.long)).buffer))
  return typed('D', Buffer.from(Float64Array.of(value.double).buffer))
}
