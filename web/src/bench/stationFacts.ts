import {
  formatWords,
  type MeshFilePart,
  type AssetState,
  type BenchTexture,
  type MeshFacts,
  type StandardFacts,
  type Station,
} from '@stern-gate/contract'
import { formatCount, formatLength, formatNumber, formatShare } from '@stern-gate/core/numbers'
import { fileName } from '@stern-gate/core/paths'
import { wordsOfInput } from '@stern-gate/core/surfaces'
import { bytesText, channelText } from '../words/formats'
import { row, type FactGroup } from './factRows'
import { colourRows, drawRows, levelNodes, skinRows, topologyRows } from './meshFactRows'
import { levelFacts } from './levelFactRows'
import { normalRows, resolutionRows, textureRows } from './textureFactRows'

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
/** The facts that belong to a station. `texture` is the one on the desk. */
export function stationFacts(station: Station, state: AssetState, texture: BenchTexture | null): FactGroup[] {
  return writers[station](state, texture).filter((g) => g.rows.length > 0)
}

const twoFigures = (v: number): string =>
  v >= 10 ? formatCount(Number(v.toPrecision(2))) : String(Number(v.toPrecision(2)))
function boundsOf(state: AssetState): { min: number[]; max: number[] } | null {
  const boxes = levelNodes(state).flatMap((n) => (n.bounds ? [n.bounds] : []))
  if (boxes.length === 0) return null
  return {
    min: [0, 1, 2].map((i) => Math.min(...boxes.map((b) => b.min[i]!))),
    max: [0, 1, 2].map((i) => Math.max(...boxes.map((b) => b.max[i]!))),
  }
}

const standardText = (facts: StandardFacts | null): string => {
  if (!facts) return 'not looked at yet'
  const count = facts.errors.reduce((sum, e) => sum + e.count, 0)
  return count === 0 ? (facts.all ? 'no errors' : 'not looked at to the end') : `${formatCount(count)} errors`
}

const writers: Record<Station, (state: AssetState, texture: BenchTexture | null) => FactGroup[]> = {
  files: (s) => [
    {
      title: 'Mesh file',
      rows: s.mesh
        ? [
            row('Format', formatWords(s.mesh.file.format)),
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
    { title: 'Not imported', rows: (s.mesh?.file.lost ?? []).map((what) => row(what, '')) },
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
        row('Checked', s.names.length),
        row('Match their pattern', s.names.filter((n) => n.fits).length),
        row('With a suggestion', s.names.filter((n) => n.proposal !== null).length),
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
          ...(s.mesh!.file.notes.pivotMeant ? [row('The origin', 'is meant')] : []),
        ],
      },
      {
        title: 'Nodes',
        rows: [
          row('With a mesh', nodes.length),
          row('Rotated nodes', turned),
          row('Scaled nodes', scaled),
          row('Mirrored nodes', nodes.filter((n) => n.determinant < 0).length),
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
          row('Polygons as delivered', polygonsText(s.mesh?.file)),
          row(
            'Vertices',
            sum((x) => x.vertices),
          ),
          row('Primitives', p.length),
          row(
            'Surface',
            `${formatNumber(
              sum((x) => x.area),
              'x',
            )} m²`,
          ),
        ],
      },
      { title: 'Topology', rows: topologyRows(s) },
      {
        title: 'Faults',
        rows: [
          row(
            'Degenerate triangles',
            sum((x) => x.degenerate),
          ),
          row(
            'Indices out of range',
            sum((x) => x.badIndices),
          ),
          row(
            'Non-finite values',
            sum((x) => x.notFinite),
          ),
          row(
            'Duplicate vertices',
            sum((x) => x.doubled),
          ),
          row(
            'Normals facing away',
            sum((x) => x.normals?.against ?? 0),
          ),
        ],
      },
      { title: 'Vertex cache', rows: drawRows(p) },
      { title: 'Skin', rows: skinRows(p) },
      { title: 'Vertex colours', rows: colourRows(p) },
      {
        title: 'Vertex attributes',
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
      const decal = s.mesh!.decals.find((d) => d.slot === slot.name && d.over > 0.5)
      return {
        title: slot.name,
        rows: [
          row('Share of the surface', formatShare(own.reduce((a, x) => a + x.area, 0) / all)),
          row(
            'Triangles',
            own.reduce((a, x) => a + x.triangles, 0),
          ),
          row('Alpha', slot.adds ? 'add' : slot.alphaMode),
          ...(decal ? [row('Decal gap', `${formatLength(decal.least)} … ${formatLength(decal.most)}`)] : []),
          row('Metallic · roughness', `${slot.metallic.toFixed(2)} · ${slot.roughness.toFixed(2)}`),
          ...[
            ...new Map(
              slot.textures.map((t) => [
                `${t.input} ${t.image}`,
                row(wordsOfInput(t.input, t.field), `${s.mesh!.file.images[t.image ?? -1]?.name ?? '?'}`),
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
          ...resolutionRows(t),
          row('Powers of two', power(h.width) && power(h.height) ? 'yes' : 'no'),
          row('Multiples of four', h.width % 4 === 0 && h.height % 4 === 0 ? 'yes' : 'no'),
          row('Uncompressed, RGBA 8 bit', bytesText(h.width * h.height * 4)),
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
          ...(s.mesh?.file.notes.channels ?? [])
            .filter((c) => c.channel === channel)
            .map((c) => row('Said to be for', c.purpose)),
          row(
            'Islands',
            sum((c) => c.islands),
          ),
          row('U', range(0)),
          row('V', range(1)),
          row(
            'UV area covered',
            `${formatNumber(covered, 'x')}${slots.size > 1 ? ` on ${slots.size} slots` : ''}`,
          ),
          row('Overlap', covered > 0 ? formatShare(Math.min(1, overlapped / covered)) : '–'),
          row(
            'Mirrored triangles',
            sum((c) => c.mirrored),
          ),
          row(
            'Degenerate triangles',
            sum((c) => c.degenerate),
          ),
          row(
            'Triangles outside 0 … 1',
            sum((c) => c.outside),
          ),
          row('Tiles', [...new Set(own.flatMap((c) => c.tiles))].slice(0, 4).join(' ') || '–'),
          row(
            'UV density',
            density.length > 0
              ? `${twoFigures(Math.min(...density))} … ${twoFigures(Math.max(...density))} / m`
              : '–',
          ),
        ],
      }
    })
  },
  lods: levelFacts,
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
    { title: 'Against the surface', rows: fitRows(s) },
  ],
}

/** Faces of the file before they were cut into triangles, or why they are not known. */
function polygonsText(file: MeshFilePart | undefined): string {
  if (!file) return 'not known'
  if (file.polygons !== null) return formatCount(file.polygons)
  return file.format === 'fbx' || file.format === 'dae' ? 'not kept by the reader' : 'triangles only'
}

/** How the collision lies around the surface; empty where that is not known. */
function fitRows({ mesh }: AssetState): FactGroup['rows'] {
  const fit = mesh?.fit
  if (!fit) return []
  return [
    row('Surface stands out by', formatLength(fit.farthestOut)),
    row('Of it outside', formatShare(fit.shareOutside)),
    row('Air in the collision', fit.air === null ? 'not known' : formatShare(fit.air)),
  ]
}
