import type {
  AssetState,
  BenchTexture,
  MeshFacts,
  MeshFormat,
  StandardFacts,
  Station,
} from '@stern-gate/contract'
import { formatCount, formatLength, formatNumber, formatShare } from '@stern-gate/core/messages'
import { fileName } from '@stern-gate/core/paths'
import { bytesText, channelText } from '../words/formats'

/** A group of plain figures beside the stage. */
export interface FactGroup {
  title: string
  rows: { name: string; value: string }[]
}

type Rows = FactGroup['rows']
const formatWords: Record<MeshFormat, string> = {
  gltf: 'glTF',
  glb: 'GLB',
  obj: 'OBJ',
  stl: 'STL',
  ply: 'PLY',
  fbx: 'FBX',
  dae: 'COLLADA',
}
const unitWords = ({ format, declared: { unitMetres } }: MeshFacts['file']): string =>
  unitMetres === null
    ? format === 'fbx'
      ? 'not said; centimetre taken'
      : 'not said; metre taken'
    : format === 'gltf' || format === 'glb'
      ? 'metre, by format'
      : unitMetres === 1
        ? 'metre'
        : formatLength(unitMetres)
const row = (name: string, value: string | number): Rows[number] => ({
  name,
  value: typeof value === 'number' ? formatCount(value) : value,
})

/** The facts that belong to a station. `texture` is the one on the desk. */
export function stationFacts(station: Station, state: AssetState, texture: BenchTexture | null): FactGroup[] {
  return writers[station](state, texture).filter((g) => g.rows.length > 0)
}

const twoFigures = (v: number): string =>
  v >= 10 ? formatCount(Number(v.toPrecision(2))) : String(Number(v.toPrecision(2)))
const levelNodes = (state: AssetState, level = state.levels[0]?.level) => {
  const paths = new Set(state.levels.find((l) => l.level === level)?.nodes ?? [])
  return (state.mesh?.nodes ?? []).filter((n) => paths.has(n.path))
}

function boundsOf(state: AssetState): { min: number[]; max: number[] } | null {
  const boxes = levelNodes(state).flatMap((n) => (n.bounds ? [n.bounds] : []))
  if (boxes.length === 0) return null
  return {
    min: [0, 1, 2].map((i) => Math.min(...boxes.map((b) => b.min[i]!))),
    max: [0, 1, 2].map((i) => Math.max(...boxes.map((b) => b.max[i]!))),
  }
}

/** What the pixels say, with how sure; where they decide nothing the two likeliest. */
const contentText = ({ content }: BenchTexture): string =>
  !content
    ? 'not measured'
    : content.role
      ? `${content.role} · ${formatShare(content.probabilities[0]!.probability)}`
      : content.probabilities.length > 0
        ? `undecided: ${content.probabilities
            .slice(0, 2)
            .map((p) => p.role)
            .join(' or ')}`
        : 'undecided'

const standardText = (facts: StandardFacts | null): string => {
  if (!facts) return 'not looked at yet'
  const count = facts.errors.reduce((sum, e) => sum + e.count, 0)
  return count === 0 ? (facts.all ? 'no errors' : 'not looked at to the end') : `${formatCount(count)} errors`
}

const textureRows = (t: BenchTexture | null): Rows => {
  const h = t?.facts?.header,
    floats = t?.facts?.floats
  if (!t || !h) return []
  return [
    row('Size', `${h.width} × ${h.height}`),
    row('Channels', `${['grey', 'grey + A', 'RGB', 'RGBA'][h.channels - 1]} · ${h.depth} bit`),
    row('Format', `${h.format.toUpperCase()}${h.palette ? ', palette' : ''}`),
    row('On disk', bytesText(h.sizeBytes)),
    row(
      'Says of colour',
      h.colourSpace === 'unstated' ? 'nothing' : h.colourSpace === 'srgb' ? 'sRGB' : h.colourSpace,
    ),
    row('Carries', t.role ? `${t.role} · by ${t.roleFrom}` : 'not known'),
    row('By its pixels', contentText(t)),
    ...(h.blockFormat ? [row('Stored in', h.blockFormat)] : []),
    ...(floats
      ? [
          row('Values', `${formatNumber(floats.min, 'x')} … ${formatNumber(floats.max, 'x')}`),
          row('Above 1', formatShare(floats.above)),
          row('Below 0', formatShare(floats.below)),
        ]
      : []),
  ]
}

const normalRows = (t: BenchTexture | null): Rows => {
  const n = t?.facts?.normal
  if (!n || t?.role !== 'normal') return []
  // Where it was not looked at, or nothing bends
  const curl = (energy: number): string => (energy === 0 ? '–' : energy.toExponential(1))
  return [
    row('Normal map by pixels', formatShare(n.isNormalMap)),
    row('Length of vectors', n.meanLength.toFixed(3)),
    row('Facing away', formatShare(n.shareFacingAway)),
    row('Green points', n.green.direction),
    row('How sure', n.green.direction === 'undecided' ? '–' : formatShare(n.green.confidence)),
    row('Curl if up', curl(n.green.energyUp)),
    row('Curl if down', curl(n.green.energyDown)),
  ]
}

const topologyRows = (s: AssetState): Rows => {
  const t = levelNodes(s).flatMap((n) => (n.topology ? [n.topology] : []))
  const sum = (of: (x: (typeof t)[number]) => number): number => t.reduce((a, x) => a + of(x), 0)
  return t.length === 0
    ? []
    : [
        row(
          'Points',
          sum((x) => x.points),
        ),
        row(
          'Shells',
          sum((x) => x.shells),
        ),
        row(
          'Closed shells',
          sum((x) => x.closedShells),
        ),
        row(
          'Open edges',
          sum((x) => x.openEdges),
        ),
        row(
          'Open borders',
          sum((x) => x.borders),
        ),
        row(
          'Holes',
          sum((x) => x.holes),
        ),
        row(
          'Crumbs',
          sum((x) => x.crumbs),
        ),
        row(
          'There twice',
          sum((x) => x.duplicates),
        ),
        row(
          'Edges of three or more',
          sum((x) => x.nonManifoldEdges),
        ),
        row(
          'Facing inward',
          sum((x) => x.insideOut),
        ),
        row(
          'Near another point',
          sum((x) => x.near),
        ),
      ]
}

type Primitives = MeshFacts['nodes'] extends (infer N)[] | null
  ? N extends { primitives: infer P }
    ? P
    : never
  : never

/** Weighted by triangles: what the whole level costs. */
const drawRows = (p: Primitives): Rows => {
  const cached = p.filter((x) => x.cache !== null),
    triangles = cached.reduce((a, x) => a + x.triangles, 0)
  const mean = (of: (x: NonNullable<Primitives[number]['cache']>) => number): string =>
    (cached.reduce((a, x) => a + of(x.cache!) * x.triangles, 0) / triangles).toFixed(2)
  return triangles === 0
    ? []
    : [
        row(
          'Transformed a triangle',
          mean((c) => c.acmr),
        ),
        row(
          'Transformed a vertex',
          mean((c) => c.atvr),
        ),
      ]
}

const skinRows = (p: Primitives): Rows => {
  const skins = p.flatMap((x) => (x.skin ? [x.skin] : []))
  return skins.length === 0
    ? []
    : [
        row('Most bones a vertex', Math.max(...skins.map((s) => s.influences.length - 1))),
        row(
          'Following none',
          skins.reduce((a, s) => a + (s.influences[0] ?? 0), 0),
        ),
        row(
          'Weights not adding up',
          skins.reduce((a, s) => a + s.notOne, 0),
        ),
      ]
}

const colourRows = (p: Primitives): Rows => {
  const sets = Math.max(0, ...p.map((x) => x.colours.length))
  return Array.from({ length: sets }, (_, set) =>
    p.flatMap((x) => (x.colours[set] ? [x.colours[set]] : [])),
  ).flatMap((found, set) =>
    [...'RGBA']
      .slice(0, found[0]!.min.length)
      .map((channel, i) =>
        row(
          `${sets > 1 ? `${set} ` : ''}${channel}`,
          `${Math.min(...found.map((c) => c.min[i] ?? 0)).toFixed(2)} … ${Math.max(...found.map((c) => c.max[i] ?? 0)).toFixed(2)}`,
        ),
      ),
  )
}

const writers: Record<Station, (state: AssetState, texture: BenchTexture | null) => FactGroup[]> = {
  files: (s) => [
    {
      title: 'Mesh file',
      rows: s.mesh
        ? [
            row('Format', formatWords[s.mesh.file.format]),
            row('Size', bytesText(s.mesh.file.sizeBytes)),
            row('Textures inside', s.mesh.file.images.filter((i) => i.embedded).length),
            row('Textures beside', s.mesh.file.images.filter((i) => !i.embedded).length),
          ]
        : [],
    },
    {
      title: 'Open standard',
      rows: s.standard.map(({ file, facts }) => row(fileName(file), standardText(facts))),
    },
    { title: 'Not taken over', rows: (s.mesh?.file.lost ?? []).map((what) => row(what, '')) },
    {
      title: 'Also in the file',
      rows: s.mesh
        ? [
            row('Cameras', s.mesh.file.cameras),
            row('Lights', s.mesh.file.lights),
            row('Empty nodes', s.mesh.file.emptyNodes),
            row('Skins', s.mesh.file.skins),
            row('Clips', s.mesh.file.clips.length),
          ]
        : [],
    },
    {
      title: 'Extensions',
      rows: (s.mesh?.file.extensionsUsed ?? []).map((e) =>
        row(e, s.mesh!.file.extensionsLost.includes(e) ? 'not read' : 'read'),
      ),
    },
    {
      title: 'Delivered files',
      rows: s.files.map((f) => row(f.path.split('/').at(-1)!, bytesText(f.sizeBytes))),
    },
  ],
  names: (s) => [
    {
      title: 'Names',
      rows: [
        row('Looked at', s.names.length),
        row('Fit their pattern', s.names.filter((n) => n.fits).length),
        row('With a proposal', s.names.filter((n) => n.proposal !== null).length),
      ],
    },
  ],
  scale: (s) => {
    const b = boundsOf(s)
    if (!b) return []
    const size = [0, 1, 2].map((i) => b.max[i]! - b.min[i]!)
    // What is left by rounding of 32 bits is nothing, next to the size
    const apart = (distance: number): number => (Math.abs(distance) < 1e-6 * Math.max(...size) ? 0 : distance)
    const nodes = levelNodes(s)
    const turned = nodes.filter((n) => Math.abs(n.rotation[3]) < 0.99999).length,
      scaled = nodes.filter((n) => n.scale.some((v) => Math.abs(v - 1) > 1e-5)).length
    return [
      {
        title: 'Size of level 0',
        rows: [
          row('Along X', formatLength(size[0]!)),
          row('Along Y, up', formatLength(size[1]!)),
          row('Along Z', formatLength(size[2]!)),
          row('Unit in the file', unitWords(s.mesh!.file)),
          row('Up in the file', s.mesh!.file.declared.upAxis?.toUpperCase() ?? 'not said; Y taken'),
        ],
      },
      {
        title: 'Pivot, from the origin',
        rows: [
          row(
            'Base centre',
            formatLength(
              apart(Math.hypot((b.min[0]! + b.max[0]!) / 2, b.min[1]!, (b.min[2]! + b.max[2]!) / 2)),
            ),
          ),
          row(
            'Centre',
            formatLength(apart(Math.hypot(...[0, 1, 2].map((i) => (b.min[i]! + b.max[i]!) / 2)))),
          ),
          row('Lowest point', formatLength(apart(b.min[1]!))),
        ],
      },
      {
        title: 'Nodes',
        rows: [
          row('Drawn', nodes.length),
          row('Turned', turned),
          row('Scaled', scaled),
          row('Mirrored', nodes.filter((n) => n.determinant < 0).length),
        ],
      },
    ]
  },
  mesh: (s) => {
    const p = levelNodes(s).flatMap((n) => n.primitives)
    const sum = (of: (x: (typeof p)[number]) => number) => p.reduce((a, x) => a + of(x), 0)
    if (p.length === 0) return []
    return [
      {
        title: 'Level 0',
        rows: [
          row(
            'Triangles',
            sum((x) => x.triangles),
          ),
          row(
            'Vertices',
            sum((x) => x.vertices),
          ),
          row('Parts', p.length),
          row(
            'Surface',
            `${formatNumber(
              sum((x) => x.area),
              'x',
            )} m²`,
          ),
        ],
      },
      { title: 'Hangs together', rows: topologyRows(s) },
      {
        title: 'Faults',
        rows: [
          row(
            'Without an area',
            sum((x) => x.degenerate),
          ),
          row(
            'Broken indices',
            sum((x) => x.badIndices),
          ),
          row(
            'Not a number',
            sum((x) => x.notFinite),
          ),
          row(
            'Doubled vertices',
            sum((x) => x.doubled),
          ),
          row(
            'Normals against faces',
            sum((x) => x.normals?.against ?? 0),
          ),
        ],
      },
      { title: 'Drawn', rows: drawRows(p) },
      { title: 'Skin', rows: skinRows(p) },
      { title: 'Vertex colours', rows: colourRows(p) },
      {
        title: 'Vertices carry',
        rows: [...new Set(p.flatMap((x) => x.attributes))].map((a) =>
          row(a, `${p.filter((x) => x.attributes.includes(a)).length} of ${p.length}`),
        ),
      },
    ]
  },
  slots: (s) => {
    const p = levelNodes(s).flatMap((n) => n.primitives)
    const all = p.reduce((a, x) => a + x.area, 0) || 1
    return (s.mesh?.slots ?? []).map((slot) => {
      const own = p.filter((x) => x.slot === slot.name)
      return {
        title: slot.name,
        rows: [
          row('Of the surface', formatShare(own.reduce((a, x) => a + x.area, 0) / all)),
          row(
            'Triangles',
            own.reduce((a, x) => a + x.triangles, 0),
          ),
          row('Alpha', slot.alphaMode),
          row('Metallic · roughness', `${slot.metallic.toFixed(2)} · ${slot.roughness.toFixed(2)}`),
          ...[
            ...new Map(
              slot.textures.map((t) => [
                `${t.input} ${t.image}`,
                row(t.input, `${s.mesh!.file.images[t.image ?? -1]?.name ?? '?'}`),
              ]),
            ).values(),
          ],
        ],
      }
    })
  },
  colour: (_, t) => [
    { title: t?.name ?? 'No texture', rows: textureRows(t) },
    { title: 'As a normal map', rows: normalRows(t) },
  ],
  compression: (_, t) => {
    const h = t?.facts?.header
    if (!h) return []
    const power = (n: number) => (n & (n - 1)) === 0
    return [
      {
        title: t.name,
        rows: [
          ...textureRows(t).slice(0, 4),
          row('Powers of two', power(h.width) && power(h.height) ? 'yes' : 'no'),
          row('Multiples of four', h.width % 4 === 0 && h.height % 4 === 0 ? 'yes' : 'no'),
          row('Unpacked, RGBA 8 bit', bytesText(h.width * h.height * 4)),
        ],
      },
    ]
  },
  uvs: (s) => {
    const nodes = levelNodes(s)
    const channels = [
      ...new Set(nodes.flatMap((n) => n.primitives.flatMap((p) => p.uvChannels.map((c) => c.channel)))),
    ].sort((a, b) => a - b)
    return channels.map((channel) => {
      const own = nodes.flatMap((n) =>
        n.primitives.flatMap((p) => p.uvChannels.filter((c) => c.channel === channel)),
      )
      const sheets = nodes.flatMap((n) => n.sheets.filter((x) => x.channel === channel && x.slot === null))
      const sum = (of: (c: (typeof own)[number]) => number): number => own.reduce((a, c) => a + of(c), 0)
      const range = (i: 0 | 1): string =>
        `${Math.min(...own.map((c) => c.min[i])).toFixed(2)} … ${Math.max(...own.map((c) => c.max[i])).toFixed(2)}`
      const covered = sheets.reduce((a, x) => a + x.covered, 0),
        overlapped = sheets.reduce((a, x) => a + x.overlapped, 0)
      const slots = new Set(
        nodes.flatMap((n) =>
          n.primitives.filter((p) => p.uvChannels.some((c) => c.channel === channel)).map((p) => p.slot),
        ),
      )
      const density = own.flatMap((c) => (c.density ? [c.density.middle] : []))
      return {
        title: channelText(channel),
        rows: [
          row(
            'Islands',
            sum((c) => c.islands),
          ),
          row('U', range(0)),
          row('V', range(1)),
          row(
            'Sheets covered',
            `${formatNumber(covered, 'x')}${slots.size > 1 ? ` on ${slots.size} slots` : ''}`,
          ),
          row('Covered twice', covered > 0 ? formatShare(Math.min(1, overlapped / covered)) : '–'),
          row(
            'Mirrored',
            sum((c) => c.mirrored),
          ),
          row(
            'Without an area',
            sum((c) => c.degenerate),
          ),
          row(
            'Outside 0 … 1',
            sum((c) => c.outside),
          ),
          row('Tiles', [...new Set(own.flatMap((c) => c.tiles))].slice(0, 4).join(' ') || '–'),
          row(
            'Sheets a metre',
            density.length > 0
              ? `${twoFigures(Math.min(...density))} … ${twoFigures(Math.max(...density))}`
              : '–',
          ),
        ],
      }
    })
  },
  lods: (s) => [
    { title: 'Triangles by level', rows: s.levels.map((l) => row(`LOD ${l.level}`, l.triangles)) },
    {
      title: 'Against the one before',
      rows: s.levels
        .slice(1)
        .map((l, i) => row(`LOD ${l.level}`, formatShare(l.triangles / Math.max(1, s.levels[i]!.triangles)))),
    },
  ],
  collision: (s) => [
    {
      title: 'Collision meshes',
      rows:
        s.collision.length === 0
          ? [row('Found', 'none')]
          : (s.mesh?.nodes ?? [])
              .filter((n) => s.collision.includes(n.path))
              .map((n) =>
                row(n.name, `${formatCount(n.primitives.reduce((a, p) => a + p.triangles, 0))} triangles`),
              ),
    },
  ],
}
