import * as z from 'zod'
import { carriedSettingSchema } from './carryOver'
import { encodedFormatSchema } from './encoding'
import { faultSchema } from './fault'
import { fileParts } from './filePart'
import { remedyOptionsSchema } from './finding'
import { originSchema, termsSchema } from './origin'
import { assetKindSchema } from './report'
import { textureRoleSchema } from './rulebook/rulebook'

/** What a file of a package is: a mesh file may hold a coarser level or the collision alone. */
export const packagedPartSchema = z.enum([...fileParts, 'level', 'collision'])

/** A file of a package. */
export const packagedFileSchema = z.strictObject({
  path: z.string().describe('in the package, with / between folders'),
  part: packagedPartSchema,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sizeBytes: z.int().min(0),
})
export type PackagedFile = z.infer<typeof packagedFileSchema>

/** A texture as the target stores it, beside the one that it was made of. */
export const encodedFileSchema = z.strictObject({
  path: z.string().describe('in the package'),
  of: z.string().describe('path of the texture that it was made of, or its name inside the mesh'),
  role: textureRoleSchema.nullable(),
  format: encodedFormatSchema,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sizeBytes: z.int().min(0),
  memoryBytes: z.int().min(0).describe('of all levels in graphics memory'),
  psnr: z.number().nullable().describe('dB against the source; null: nothing differs'),
  degrees: z.number().nullable().describe('mean angle between vectors of a normal map'),
})
export type EncodedFile = z.infer<typeof encodedFileSchema>

export const packagedAssetSchema = z.strictObject({
  id: z.string().nullable().describe('on the server; null where it was packed without one'),
  name: z.string(),
  kind: assetKindSchema,
  class: z.string(),
  version: z.int().nullable().describe('number of the version; null without a server'),
  verdict: z.literal('clear').describe('by the rulebook, for the target of this package'),
  cautions: z.int().min(0),
  notes: z.int().min(0),
  main: z.string().describe('path of its mesh, or of the first texture of a set'),
  recipe: z
    .array(z.strictObject({ remedy: z.string(), version: z.int(), options: remedyOptionsSchema }))
    .describe('steps that made these files of what was delivered; none: they are as they came'),
  made: z
    .array(z.strictObject({ remedy: z.string(), version: z.int(), options: remedyOptionsSchema }))
    .default([])
    .describe('steps behind the recipe that made these files for the target: its sizes and conventions'),
  files: z.array(packagedFileSchema).min(1),
  lightmap: z
    .strictObject({ channel: z.int().min(0), texels: z.int().min(1) })
    .nullable()
    .default(null)
    .describe(
      'UV channel for baked light, counted from 0, and the side of its lightmap; null: it needs none',
    ),
  levels: z
    .array(
      z.strictObject({
        level: z.int().min(0),
        triangles: z.int().min(0),
        coverage: z
          .number()
          .nullable()
          .describe('least share of the screen’s height at which it is drawn; null: nothing says so'),
      }),
    )
    .default([])
    .describe('levels of detail, the finest first; empty for one alone that nothing switches'),
  origin: originSchema.nullable().default(null).describe('where it came from; null: nobody said'),
  carryOver: z
    .array(carriedSettingSchema)
    .default([])
    .describe('settings of its slots that the target changes or does not take'),
  encoded: z
    .array(encodedFileSchema)
    .default([])
    .describe('its textures in the formats of the target, where that was asked for'),
  notEncoded: z
    .array(z.strictObject({ of: z.string(), why: z.string() }))
    .default([])
    .describe('textures that could not be encoded'),
})
export type PackagedAsset = z.infer<typeof packagedAssetSchema>

/** A scene of which parts are in a package: where they stand. */
export const packagedSceneSchema = z.strictObject({
  name: z.string(),
  path: z.string().describe('of a glTF without meshes: a node for each place, the asset in its extras'),
  assets: z.int().min(1),
  placements: z.int().min(0),
})
export type PackagedScene = z.infer<typeof packagedSceneSchema>

/** What `manifest.json` in a package says: every file with its hash, and how it came about. */
export const manifestSchema = z.strictObject({
  format: z.literal('stern-gate-manifest/1'),
  version: z.string().describe('of Stern Gate'),
  project: z.string().nullable(),
  dispatch: z.int().nullable().describe('number of the dispatch in its project'),
  target: z.string(),
  rulebook: z.strictObject({ name: z.string(), revision: z.int().nullable() }),
  terms: z
    .record(z.string(), termsSchema)
    .default({})
    .describe('terms of the rulebook that their origins name'),
  assets: z.array(packagedAssetSchema).describe('by kind and name'),
  scenes: z.array(packagedSceneSchema).default([]).describe('placements of what was taken out of scenes'),
})
export type Manifest = z.infer<typeof manifestSchema>

/** An asset that stays behind, and why. */
export const leftBehindSchema = z.strictObject({
  asset: z.string(),
  name: z.string(),
  kind: assetKindSchema,
  why: z.string(),
  stops: z.int().min(0).describe('findings that hold it; 0: it is not judged yet, or cannot be'),
})
export type LeftBehind = z.infer<typeof leftBehindSchema>

export const dispatchStates = ['waiting', 'packing', 'done', 'failed'] as const
/** A package that left, or that is being packed. */
export const dispatchSchema = z.strictObject({
  id: z.uuid(),
  number: z.int(),
  note: z.string(),
  by: z.string(),
  target: z.string(),
  state: z.enum(dispatchStates),
  packed: z.int().describe('assets looked at so far'),
  total: z.int().describe('assets to look at'),
  assets: z.int().describe('assets in it'),
  encode: z.boolean().describe('textures are encoded for the target'),
  files: z.int().describe('files in it, without the manifest and what was encoded'),
  held: z.int().describe('assets that stayed behind'),
  sha256: z.string().nullable(),
  sizeBytes: z.number().nullable(),
  fault: faultSchema.nullable(),
  created: z.iso.datetime(),
})
export type Dispatch = z.infer<typeof dispatchSchema>

/** A dispatch with what is in it and what is not. */
export const dispatchDetailSchema = dispatchSchema.extend({
  leftBehind: z.array(leftBehindSchema),
  contents: z.array(packagedAssetSchema),
})
export type DispatchDetail = z.infer<typeof dispatchDetailSchema>

/** Which assets a package is made of; null: all of the project. */
const chosenAssets = z.array(z.uuid()).min(1).max(20_000).nullable()
export const dispatchChoiceSchema = z.strictObject({ target: z.string().max(100), assets: chosenAssets })
export const newDispatchSchema = dispatchChoiceSchema.extend({
  note: z.string().max(400).default(''),
  encode: z
    .boolean()
    .default(false)
    .describe(
      'textures are encoded to the formats of the target, with all mips, and packed beside their sources',
    ),
})
export type NewDispatch = z.input<typeof newDispatchSchema>

/** What would go and what would stay, by what was judged last. */
export const dispatchPlanSchema = z.strictObject({
  clear: z.int().describe('assets that would go'),
  elsewhere: z.int().describe('of these judged for another target; packing judges them for this one'),
  held: z.int(),
  waiting: z.int().describe('assets that are not judged yet'),
  leftBehind: z.array(leftBehindSchema).describe('the first few hundred that would stay'),
})
export type DispatchPlan = z.infer<typeof dispatchPlanSchema>
