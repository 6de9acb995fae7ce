import { z } from 'zod'
import { faultSchema } from '../fault'

const vec3 = z.tuple([z.number(), z.number(), z.number()])

/** Axis-aligned box in metres, Y up. */
export const boundsSchema = z.strictObject({ min: vec3, max: vec3 })
export type Bounds = z.infer<typeof boundsSchema>

/** The inputs of a material slot that a texture can feed. */
export const slotInputs = ['basecolor', 'normal', 'orm', 'metallic-roughness', 'occlusion', 'emissive', 'other'] as const
export const slotInputSchema = z.enum(slotInputs)
export type SlotInput = z.infer<typeof slotInputSchema>

export const meshImageSchema = z.strictObject({
  index: z.int().min(0),
  name: z.string().describe('file name from the URI, else the name in the file, else made from the index'),
  uri: z.string().nullable().describe('decoded relative path asked for; null when embedded'),
  mimeType: z.string(),
  embedded: z.boolean(),
  sha256: z.string().nullable().describe('hash of embedded bytes'),
  sizeBytes: z.int().min(0),
})
export type MeshImage = z.infer<typeof meshImageSchema>

/** What the container says, without reading any geometry. */
export const meshFilePartSchema = z.strictObject({
  format: z.enum(['gltf', 'glb']),
  generator: z.string(),
  sizeBytes: z.int().min(0),
  extensionsUsed: z.array(z.string()),
  extensionsLost: z.array(z.string()).describe('extensions in the file that an output will not carry'),
  images: z.array(meshImageSchema),
  buffers: z.array(z.strictObject({ uri: z.string().nullable(), sizeBytes: z.int().min(0) })),
  cameras: z.int().min(0),
  lights: z.int().min(0),
  emptyNodes: z.int().min(0),
  skins: z.int().min(0),
  clips: z.array(z.strictObject({ name: z.string(), lengthSeconds: z.number(), channels: z.int() })),
})
export type MeshFilePart = z.infer<typeof meshFilePartSchema>

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
  uvChannels: z.array(z.strictObject({ channel: z.int().min(0), min: z.tuple([z.number(), z.number()]), max: z.tuple([z.number(), z.number()]), allSame: z.boolean() })),
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
  bounds: boundsSchema.nullable().describe('of this node\'s own mesh in the world'),
  skinned: z.boolean(),
  primitives: z.array(primitiveFactsSchema),
})
export type NodeFacts = z.infer<typeof nodeFactsSchema>

export const slotFactsSchema = z.strictObject({
  name: z.string(),
  index: z.int().min(0),
  baseColour: z.tuple([z.number(), z.number(), z.number(), z.number()]).describe('factor, linear RGBA'),
  metallic: z.number(),
  roughness: z.number(),
  emissive: vec3,
  alphaMode: z.enum(['opaque', 'cutout', 'blend']),
  alphaCutoff: z.number(),
  doubleSided: z.boolean(),
  extensions: z.array(z.string()),
  textures: z.array(z.strictObject({
    input: slotInputSchema,
    field: z.string().describe('name of the input in the format'),
    image: z.int().min(0).nullable(),
    channel: z.int().min(0).describe('UV channel, counted from 0'),
  })),
})
export type SlotFacts = z.infer<typeof slotFactsSchema>

/** Large evidence beside the facts: triangle lists as little-endian uint32. */
export const evidenceEntrySchema = z.strictObject({
  name: z.string().describe('measure:node path:primitive'),
  type: z.literal('uint32'),
  offset: z.int().min(0).describe('bytes from the start of the blob'),
  length: z.int().min(0).describe('elements'),
})
export type EvidenceEntry = z.infer<typeof evidenceEntrySchema>

export const meshFactsSchema = z.strictObject({
  kind: z.literal('mesh'),
  file: meshFilePartSchema,
  nodes: z.array(nodeFactsSchema).nullable().describe('null when it could not be measured; see notMeasured'),
  slots: z.array(slotFactsSchema).nullable(),
  evidence: z.array(evidenceEntrySchema),
  notMeasured: z.array(faultSchema),
})
export type MeshFacts = z.infer<typeof meshFactsSchema>
