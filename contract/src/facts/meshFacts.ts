import * as z from 'zod'
import { meshFormats } from '../formats'
import { decalFactsSchema, islandFactsSchema, slotFactsSchema, variantFactsSchema } from './slotFacts'
import { faultSchema } from '../fault'
import { chainFactsSchema } from './levelFacts'

const vec3 = z.tuple([z.number(), z.number(), z.number()])

/** Axis-aligned box in metres, Y up. */
export const boundsSchema = z.strictObject({ min: vec3, max: vec3 })
export type Bounds = z.infer<typeof boundsSchema>

export const meshImageSchema = z.strictObject({
  index: z.int().min(0),
  name: z.string().describe('file name from the URI, else the name in the file, else made from the index'),
  uri: z.string().nullable().describe('decoded relative path asked for; null when embedded'),
  mimeType: z.string(),
  embedded: z.boolean(),
  sha256: z.string().nullable().describe('hash of embedded bytes'),
  sizeBytes: z.int().min(0),
  unsafe: z
    .string()
    .nullable()
    .describe('why the path that was asked for is never followed; null when it is a plain relative one'),
})
export type MeshImage = z.infer<typeof meshImageSchema>

export const upAxes = ['x', 'y', 'z'] as const
export type UpAxis = (typeof upAxes)[number]

export const clipFactsSchema = z.strictObject({
  name: z.string(),
  lengthSeconds: z.number(),
  channels: z.int().min(0),
  moved: z.int().min(0).describe('nodes that it moves'),
  loop: z.boolean().nullable().describe('the mark for playing it over and over; null: the file says nothing'),
  difference: z
    .strictObject({ metres: z.number(), degrees: z.number(), scale: z.number(), weight: z.number() })
    .nullable()
    .describe('the most that any node differs between the last pose and the first; null: no values'),
})
export type ClipFacts = z.infer<typeof clipFactsSchema>

export const channelPurposes = ['surface', 'lightmap', 'data'] as const
export type ChannelPurpose = (typeof channelPurposes)[number]

/** What is noted of an asset as a whole, in the extras of its scene: it goes before what its class says. */
export const assetNotesSchema = z.strictObject({
  pivotMeant: z.boolean().default(false).describe('the origin stands where somebody wanted it'),
  channels: z
    .array(z.strictObject({ channel: z.int().min(0).max(7), purpose: z.enum(channelPurposes) }))
    .max(8)
    .default([])
    .describe('what UV channels are for, where somebody said it'),
})
export type AssetNotes = z.infer<typeof assetNotesSchema>
export const nothingNoted: AssetNotes = { pivotMeant: false, channels: [] }

/** Pairs of triangles beside each other, as far as they are sampled: by which they are known in another mesh. */
export const quadSampleSchema = z.strictObject({
  corners: z.array(z.int().min(0)).describe('a hash of the places of the four corners, the least ones first'),
  diagonals: z
    .array(z.int().min(0))
    .describe('a hash of the two places that the cut joins, in the same order'),
})
export type QuadSample = z.infer<typeof quadSampleSchema>

/** What the container says, without reading any geometry. */
export const meshFilePartSchema = z.strictObject({
  format: z.enum(meshFormats),
  declared: z
    .strictObject({ unitMetres: z.number().nullable(), upAxis: z.enum(upAxes).nullable() })
    .describe(
      'what the file says of its numbers; null: nothing. Facts are in metres, Y up; undeclared numbers are taken as that',
    ),
  lost: z.array(z.string()).describe('what the file holds and reading it does not give'),
  polygons: z
    .int()
    .min(0)
    .nullable()
    .describe('faces as they were delivered; null: the format knows triangles only, or its reader cuts them'),
  generator: z.string(),
  sizeBytes: z.int().min(0),
  extensionsUsed: z.array(z.string()),
  extensionsLost: z.array(z.string()).describe('extensions in the file that an output will not carry'),
  images: z.array(meshImageSchema),
  buffers: z.array(z.strictObject({ uri: z.string().nullable(), sizeBytes: z.int().min(0) })),
  companions: z
    .array(
      z.strictObject({
        uri: z.string().describe('path inside the delivery'),
        sizeBytes: z.int().min(0).nullable().describe('null: it did not come'),
      }),
    )
    .describe('files it asks for besides geometry and pictures: material libraries'),
  cameras: z.int().min(0),
  lights: z.int().min(0),
  emptyNodes: z.int().min(0),
  strays: z
    .array(z.strictObject({ kind: z.enum(['light', 'empty']), node: z.string() }))
    .describe('nodes that draw nothing, by path'),
  skins: z.int().min(0),
  bones: z.int().min(0).describe('joints of all skins'),
  idleBones: z
    .array(z.string())
    .describe('paths of bones that no vertex follows, no clip moves and on which nothing hangs'),
  clips: z.array(clipFactsSchema),
  origin: z
    .strictObject({
      copyright: z.string(),
      author: z.string(),
      terms: z.string(),
      source: z.string(),
      link: z.string(),
    })
    .nullable()
    .describe('what the file says of where it came from; null: nothing'),
  notes: assetNotesSchema.default(nothingNoted),
})
export type MeshFilePart = z.infer<typeof meshFilePartSchema>
export type FileOrigin = NonNullable<MeshFilePart['origin']>

/** How a UV channel of one primitive lies on its sheet. UV areas are in sheets, v points down. */
export const uvChannelFactsSchema = z.strictObject({
  channel: z.int().min(0),
  min: z.tuple([z.number(), z.number()]),
  max: z.tuple([z.number(), z.number()]),
  allSame: z.boolean(),
  notFinite: z.int().min(0).describe('vertices whose UV is not a number'),
  islands: z.int().min(0),
  uvArea: z.number().describe('sum of the triangles, overlaps counted each time'),
  mirrored: z.int().min(0).describe('triangles whose picture comes out mirrored'),
  degenerate: z.int().min(0).describe('triangles with a surface but no area on the sheet'),
  outside: z.int().min(0).describe('triangles with a corner outside 0 … 1'),
  tiles: z
    .array(z.int())
    .max(64)
    .describe(
      'numbered tiles that triangles lie in, 1001 upward; only whole tiles from u 0 … 10, v 0 upward',
    ),
  density: z
    .strictObject({ low: z.number(), middle: z.number(), high: z.number() })
    .nullable()
    .describe(
      'UV lengths per metre, area-weighted 5, 50 and 95 %; times √(width · height) it is texels per metre',
    ),
})
export type UvChannelFacts = z.infer<typeof uvChannelFactsSchema>

/** Overlap on the sheet of one channel of a node, over all its primitives or over those of one slot. */
export const sheetFactsSchema = z.strictObject({
  channel: z.int().min(0),
  slot: z.string().nullable().describe('null: all primitives together, as a lightmap takes them'),
  covered: z.number().describe('area of the sheet that is covered at least once'),
  overlapped: z
    .number()
    .describe('area that is covered more than once, in sheets, as the triangles lie and not wrapped'),
  within: z.number().describe('the part of it where an island lies over itself'),
  triangles: z.int().min(0).describe('triangles that overlap another'),
  stacked: z.int().min(0).describe('triangles that lie exactly on another of the same shape'),
  gap: z
    .strictObject({
      between: z.number().nullable().describe('between two islands; null: further than 1/32, or one alone'),
      edge: z.number().describe('from an island to the edge of the sheet; below 0: one reaches over it'),
    })
    .nullable()
    .default(null)
    .describe(
      'least distances in widths of the sheet; null: not measured, as for the first channel and for what overlaps',
    ),
  exact: z
    .boolean()
    .describe('false: there were too many pairs, or others over a stack; the areas are from a raster'),
})
export type SheetFacts = z.infer<typeof sheetFactsSchema>

/** How the triangles of one node hang together; points are vertices at the very same place. */
export const topologyFactsSchema = z.strictObject({
  points: z.int().min(0),
  near: z.int().min(0).describe('points within the near distance of another, but not on it'),
  nearDistance: z.number().describe('metres: 1e-5 of the bounds diagonal'),
  openEdges: z.int().min(0),
  nonManifoldEdges: z.int().min(0),
  turnedEdges: z.int().min(0).describe('edges whose two triangles face opposite ways'),
  shells: z.int().min(0),
  closedShells: z.int().min(0),
  insideOut: z
    .int()
    .min(0)
    .describe(
      'triangles that face inward: of closed shells with a negative volume, and those turned against the rest of their shell',
    ),
  duplicates: z.int().min(0).describe('triangles over the same three points as an earlier one'),
  volume: z.number().describe('of the closed shells, in cubic metres'),
  borders: z.int().min(0).describe('rings of open edges'),
  holes: z
    .int()
    .min(0)
    .describe('rings of at most eight open edges in a shell with ten times as many triangles'),
  openPlane: z
    .strictObject({
      axis: z.enum(['X', 'Y', 'Z']),
      at: z.number().describe('metres along the axis'),
      side: z.enum(['above', 'below']).describe('where along the axis everything stands'),
      edges: z.int().min(0),
    })
    .nullable()
    .describe('the plane at an end of the node in which nearly all open edges lie; null: there is none'),
  crumbs: z
    .int()
    .min(0)
    .describe('open shells of at most four triangles with less than 0.01 % of the surface'),
})
export type TopologyFacts = z.infer<typeof topologyFactsSchema>

export const primitiveFactsSchema = z.strictObject({
  index: z.int().min(0),
  slot: z.string().nullable(),
  mode: z.enum(['triangles', 'lines', 'points']),
  triangles: z.int().min(0),
  vertices: z.int().min(0),
  area: z.number().describe('surface in square metres after node transforms'),
  attributes: z.array(z.string()),
  degenerate: z.int().min(0).describe('triangles with an area under 1e-12 of the squared bounds diagonal'),
  badIndices: z.int().min(0).describe('triangles that name a vertex which is not there'),
  notFinite: z.int().min(0).describe('vertices with a position that is not a number or infinite'),
  doubled: z.int().min(0).describe('vertices that equal an earlier one in place and in every attribute'),
  normals: z
    .strictObject({
      notUnit: z.int().min(0),
      against: z.int().min(0).describe('triangles whose corner normals point away from the face'),
    })
    .nullable()
    .describe('null: none in the file'),
  tangents: z
    .strictObject({ broken: z.int().min(0).describe('not unit, or a sign that is neither 1 nor −1') })
    .nullable(),
  cache: z
    .strictObject({ acmr: z.number(), atvr: z.number() })
    .nullable()
    .describe(
      'vertices transformed per triangle, and times that a used vertex is, with a first-in first-out cache of 16',
    ),
  skin: z
    .strictObject({
      influences: z
        .array(z.int().min(0))
        .describe('vertices by the number of bones they follow, from none upward'),
      notOne: z.int().min(0).describe('vertices whose weights do not add up to 1'),
    })
    .nullable()
    .describe('null: no weights'),
  colours: z
    .array(z.strictObject({ min: z.array(z.number()), max: z.array(z.number()) }))
    .describe('vertex colours: least and most of each channel'),
  uvChannels: z.array(uvChannelFactsSchema),
})
export type PrimitiveFacts = z.infer<typeof primitiveFactsSchema>

export const nodeFactsSchema = z.strictObject({
  path: z.string().describe('names from the root joined by /; doubled names carry #2, #3 …'),
  name: z.string(),
  parent: z.string().nullable(),
  mesh: z.string().nullable(),
  translation: vec3,
  scale: vec3,
  rotation: z.tuple([z.number(), z.number(), z.number(), z.number()]),
  determinant: z.number().describe('of the world matrix'),
  bounds: boundsSchema.nullable().describe("of this node's own mesh in the world"),
  skinned: z.boolean(),
  animated: z.boolean().describe('a clip moves it'),
  joint: z.boolean().describe('a skin follows it'),
  level: z
    .int()
    .min(0)
    .nullable()
    .default(null)
    .describe('level of detail that the file says it is (MSFT_lod); null: nothing is said'),
  copyOf: z
    .strictObject({ node: z.string(), shift: vec3.describe('metres or units of the node') })
    .nullable()
    .describe('an earlier node with the same mesh, and how far its points are shifted against it'),
  file: z
    .string()
    .nullable()
    .describe('path of the mesh file, where an asset has several; null: the main one'),
  topology: topologyFactsSchema.nullable().describe('null: no triangles'),
  sheets: z.array(sheetFactsSchema),
  hull: z
    .strictObject({
      volume: z.number().describe('of the convex hull, in cubic metres'),
      corners: z.int().min(0),
      faces: z.int().min(0),
      convex: z.boolean().describe('each shell is closed and convex'),
    })
    .nullable()
    .describe('collision nodes only'),
  support: z
    .array(z.number())
    .describe('reach in the directions of supportDirections, in metres; empty without a mesh'),
  primitives: z.array(primitiveFactsSchema),
})
export type NodeFacts = z.infer<typeof nodeFactsSchema>

/** Large evidence beside the facts: triangle lists as little-endian uint32. */
export const evidenceEntrySchema = z.strictObject({
  name: z.string().describe('measure:node path:primitive'),
  file: z
    .string()
    .nullable()
    .describe('the mesh file beside whose facts the blob stands; null: the main one'),
  type: z.literal('uint32'),
  offset: z.int().min(0).describe('bytes from the start of the blob'),
  length: z.int().min(0).describe('elements'),
})
export type EvidenceEntry = z.infer<typeof evidenceEntrySchema>

/** The shape of level 0 as a whole. */
export const shapeFactsSchema = z.strictObject({
  symmetry: z
    .tuple([z.number(), z.number(), z.number()])
    .describe('how much of it has a mirror image across the middle along X, Y, Z: 0 to 1'),
  centroid: z.tuple([z.number(), z.number(), z.number()]).describe('of the surface, metres'),
})

/** The rendered surface against the collision of the same file. */
export const fitFactsSchema = z.strictObject({
  samples: z.int().min(0).describe('points spread over the surface of level 0, seeded'),
  shareOutside: z.number().min(0).max(1).describe('of the samples further out than the tolerance'),
  farthestOut: z.number().describe('metres; 0 when nothing stands out'),
  hullVolume: z.number().describe('sum over the collision shapes, cubic metres'),
  air: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .default(null)
    .describe(
      'share of the shapes that can be reached from outside without crossing the surface, by a grid; null: not known',
    ),
})

export const meshFactsSchema = z.strictObject({
  kind: z.literal('mesh'),
  file: meshFilePartSchema,
  shape: shapeFactsSchema.nullable(),
  fit: fitFactsSchema.nullable().describe('null without collision in the same file'),
  decals: z
    .array(decalFactsSchema)
    .default([])
    .describe('slots that are not opaque, each with how far it lies over what is under it'),
  nodes: z.array(nodeFactsSchema).nullable().describe('null when it could not be measured; see notMeasured'),
  overview: z
    .strictObject({
      triangles: z.int().min(0).describe('of the finest level'),
      area: z.number().describe('of the finest level, square metres'),
      size: vec3.describe('sides of its box, metres'),
      levels: z.int().min(0),
      collision: z.boolean(),
      uvChannels: z.int().min(0),
      colours: z.boolean(),
      normals: z.boolean(),
      skinned: z.boolean(),
    })
    .nullable()
    .describe('in a few figures, by which it is known in another format; null when it could not be measured'),
  chain: chainFactsSchema
    .nullable()
    .default(null)
    .describe('null: one level only in the file, or too large to be looked at'),
  quads: quadSampleSchema
    .nullable()
    .default(null)
    .describe('of the finest level; null: it could not be measured'),
  slots: z.array(slotFactsSchema).nullable(),
  islands: z.array(islandFactsSchema).default([]).describe('which part of their sheets slots use'),
  variants: z.array(variantFactsSchema).default([]),
  evidence: z.array(evidenceEntrySchema),
  notMeasured: z.array(faultSchema),
})
export type MeshFacts = z.infer<typeof meshFactsSchema>
