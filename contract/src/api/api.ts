import * as z from 'zod'
import { storedErrorSchema } from '../encoding'
import { meshFactsSchema } from '../facts/meshFacts'
import { standardFactsSchema } from '../facts/standardFacts'
import { textureFactsSchema } from '../facts/textureFacts'
import { faultSchema } from '../fault'
import { filePartSchema } from '../filePart'
import { findingSchema, optionValueSchema, placeSchema } from '../finding'
import { knownOriginSchema } from '../origin'
import { presetNameSchema } from '../intakeWay'
import { intakeSchema, recipeSchema, stepResultSchema } from '../recipe'
import { assetKindSchema, classFromSchema } from '../report'
import { textureRoleSchema } from '../rulebook/rulebook'
import { carriedSettingSchema } from '../carryOver'
import { slotInputSchema } from '../facts/slotFacts'
import { stationSchema, tallySchema, verdictSchema, versionStateSchema } from '../station'

const id = z.uuid()
const time = z.iso.datetime()
/** A time that is sent to us: the database has no year 0, and nothing of ours is that old. */
export const sentTimeSchema = z.iso.datetime().refine((text) => text >= '1900', 'is too long ago')

/** Sizes that assets are held against by eye; each change is a revision of the rulebook. */
export const saveSizesSchema = z.strictObject({
  personHeight: z.number().min(0.1).max(50).optional(),
  gridStep: z.number().min(0.001).max(10_000).nullable().optional(),
})
export type SaveSizes = z.infer<typeof saveSizesSchema>

export const projectSchema = z.strictObject({
  id,
  name: z.string(),
  target: z.string(),
  rulebookRevision: z.int(),
  assets: z.int(),
  created: time,
  targets: z.array(z.strictObject({ id: z.string(), title: z.string() })),
  classes: z.array(z.strictObject({ id: z.string(), title: z.string() })),
  terms: z.array(z.strictObject({ id: z.string(), title: z.string() })),
  personHeight: z.number(),
  gridStep: z.number().nullable(),
  patterns: z.record(z.string(), z.string()),
})
export type Project = z.infer<typeof projectSchema>

export const newProjectSchema = z.strictObject({ name: z.string().trim().min(1).max(80) })

export const fileStateSchema = z.enum(['waiting', 'measuring', 'measured', 'refused', 'set-aside', 'apart'])
export type FileState = z.infer<typeof fileStateSchema>

export const deliveryFileSchema = z.strictObject({
  id,
  path: z.string(),
  sizeBytes: z.number(),
  state: fileStateSchema,
  fault: faultSchema.nullable(),
})
export type DeliveryFile = z.infer<typeof deliveryFileSchema>

export const deliveryStateSchema = z.enum(['receiving', 'measuring', 'done', 'cancelled'])
export type DeliveryState = z.infer<typeof deliveryStateSchema>
export const deliverySchema = z.strictObject({
  id,
  number: z.int(),
  note: z.string(),
  by: z.string(),
  state: deliveryStateSchema,
  created: time,
  files: z.int(),
  bytes: z.number(),
  done: z.int(),
  bytesDone: z.number(),
  refused: z.array(deliveryFileSchema),
  setAside: z
    .array(deliveryFileSchema)
    .describe('of a model that came in another format, too; each with why'),
  intake: intakeSchema.nullable().describe('null: as it came'),
  suggested: z.string().nullable().describe('name of a preset that fits its folder or its generator'),
})
export type Delivery = z.infer<typeof deliverySchema>

export const newDeliverySchema = z.strictObject({
  note: z.string().max(200).default(''),
  arrived: sentTimeSchema
    .optional()
    .describe('when it came, for a history that is taken over; now without it'),
  preset: presetNameSchema.optional().describe('name of an intake preset of the rulebook'),
})

export const chooseIntakeSchema = z.strictObject({
  preset: presetNameSchema.nullable().describe('null: as it came'),
})

/** One texture of an asset as the bench shows it. */
export const benchTextureSchema = z.strictObject({
  name: z.string(),
  path: z.string().nullable(),
  embedded: z.boolean(),
  sha256: z.string().nullable(),
  role: textureRoleSchema.nullable(),
  roleFrom: z.enum(['input', 'file', 'name', 'unknown']),
  tile: z.int().nullable(),
  uses: z.array(
    z.strictObject({ slot: z.string(), input: slotInputSchema, field: z.string(), channel: z.int() }),
  ),
  content: z
    .strictObject({
      role: textureRoleSchema.nullable().describe('null: undecided'),
      probabilities: z.array(z.strictObject({ role: textureRoleSchema, probability: z.number() })),
      reason: z.string(),
    })
    .nullable()
    .describe('what its pixels say that it carries; null: not measured'),
  facts: textureFactsSchema.nullable(),
  asStored: storedErrorSchema
    .nullable()
    .describe('what it loses in the format of the target; null: not measured'),
  fault: faultSchema.nullable(),
})
export type BenchTexture = z.infer<typeof benchTextureSchema>

export const benchReferenceSchema = z.strictObject({
  kind: z.enum(['buffer', 'library', 'image']),
  asked: z.string(),
  resolved: z.string().nullable(),
  how: z.enum(['path', 'case', 'name', 'stem']).nullable(),
  unsafe: z.string().nullable(),
  slots: z.array(z.strictObject({ slot: z.string(), input: slotInputSchema })),
})

/** One state of an asset: what arrived, or what a recipe makes of it. */
export const assetStateSchema = z.strictObject({
  name: z.string(),
  findings: z.array(findingSchema),
  tally: tallySchema,
  verdict: verdictSchema,
  mesh: meshFactsSchema.nullable(),
  textures: z.array(benchTextureSchema),
  standard: z
    .array(z.strictObject({ file: z.string(), facts: standardFactsSchema.nullable() }))
    .describe("glTF files with what the open standard's validator says of them; null: it has not looked yet"),
  references: z.array(benchReferenceSchema),
  files: z.array(
    z.strictObject({
      path: z.string(),
      part: filePartSchema,
      sizeBytes: z.number(),
      sha256: z.string(),
    }),
  ),
  screen: z
    .strictObject({ title: z.string(), width: z.int(), height: z.int(), fovDegrees: z.number() })
    .describe("the asset's target and its screen; the angle of view is the vertical one"),
  levels: z.array(z.strictObject({ level: z.int(), nodes: z.array(z.string()), triangles: z.int() })),
  collision: z.array(z.string()),
  tileSets: z.array(
    z.strictObject({
      name: z.string(),
      tiles: z.array(z.strictObject({ number: z.int(), texture: z.string() })),
      missing: z.array(z.strictObject({ number: z.int(), path: z.string() })),
    }),
  ),
  slotShares: z.record(z.string(), z.number()).describe('of the surface of the finest level'),
  memory: z
    .array(z.strictObject({ target: z.string(), title: z.string(), bytes: z.number(), limit: z.number() }))
    .describe('of all textures with mips, as each target stores them'),
  names: z.array(
    z.strictObject({
      place: placeSchema,
      pattern: z.string(),
      fits: z.boolean(),
      parts: z.array(z.strictObject({ part: z.string(), text: z.string(), from: z.int(), to: z.int() })),
      proposal: z.string().nullable(),
    }),
  ),
  carryOver: z
    .array(carriedSettingSchema)
    .describe("settings of the slots that not every target takes, with what becomes of them at the asset's"),
  model: z.string().nullable().describe('address of one GLB for the stage'),
  evidence: z
    .record(z.string(), z.string())
    .describe('addresses of the triangle lists, by mesh file; empty text: the main one'),
})
export type AssetState = z.infer<typeof assetStateSchema>

export const assetDetailSchema = z.strictObject({
  id,
  name: z.string(),
  kind: assetKindSchema,
  class: z.string(),
  classFrom: classFromSchema,
  target: z.string(),
  version: z.int(),
  state: versionStateSchema,
  fault: faultSchema.nullable().describe('why judging failed'),
  versions: z.array(z.strictObject({ number: z.int(), created: time, by: z.string() })),
  main: z.string(),
  origin: knownOriginSchema,
  scene: z
    .strictObject({ id, name: z.string() })
    .nullable()
    .describe('the scene of several objects that it was taken out of'),
  recipe: recipeSchema,
  recipeRevision: z.int(),
  canUndo: z.boolean(),
  making: z.boolean().describe('the output is being made'),
  outputFault: faultSchema.nullable(),
  results: z.array(stepResultSchema),
  stepWords: z.record(z.string(), z.string()).describe('what each step does, in a few words, by its id'),
  source: assetStateSchema,
  output: assetStateSchema.nullable().describe('null: source, while no step is on or nothing is made yet'),
})
export type AssetDetail = z.infer<typeof assetDetailSchema>
/** With what comes out, whether or not it is what came in. */
export type WholeDetail = AssetDetail & { output: AssetState }
export const wholeDetail = (detail: AssetDetail): WholeDetail => ({
  ...detail,
  output: detail.output ?? detail.source,
})

/** Numbers that rows are counted by: PostgreSQL's integers end here. */
const count = z.int().min(0).max(2_147_483_647)

export const saveRecipeSchema = z.strictObject({ revision: count, recipe: recipeSchema })
export const previewRequestSchema = z.strictObject({ recipe: recipeSchema })
export const previewSchema = z.strictObject({ state: assetStateSchema, results: z.array(stepResultSchema) })
export type Preview = z.infer<typeof previewSchema>
export const assetChoiceSchema = z.strictObject({
  class: z.string().nullable().optional(),
  target: z.string().nullable().optional(),
})

export type AssetChoice = z.infer<typeof assetChoiceSchema>

/** Which version an address asks for; the newest without it. */
export const versionQuerySchema = z.object({
  version: z.coerce.number().int().min(1).max(2_147_483_647).optional(),
})

/** One option of a remedy, as a person fills it in. */
export const remedyFieldSchema = z.strictObject({
  name: z.string(),
  about: z.string(),
  kind: z
    .enum([
      ...(['text', 'number', 'numbers', 'whole', 'switch', 'choice', 'colour'] as const),
      ...(['node', 'slot', 'texture', 'clip', 'missing'] as const),
    ])
    .describe(
      'the last five name a thing of the asset; missing: a path that is asked for; colour: #rrggbb; numbers: a list',
    ),
  choices: z.array(z.string()).optional(),
  default: optionValueSchema.optional().describe('without it a person must say'),
  optional: z.boolean().describe('null is taken: everywhere, or none'),
  min: z.number().optional(),
  max: z.number().optional(),
  items: z.int().optional().describe('how many a list may have'),
})
export type RemedyField = z.infer<typeof remedyFieldSchema>
/** One option of a rule: besides those kinds a list of texts. */
export const ruleFieldSchema = remedyFieldSchema.extend({
  kind: z.enum(['text', 'number', 'whole', 'switch', 'choice', 'list']),
  default: z.union([z.string(), z.number(), z.boolean(), z.null(), z.array(z.string())]).optional(),
})
export type RuleField = z.infer<typeof ruleFieldSchema>
export const remedyNeedsSchema = z
  .enum(['mesh', 'texels', 'file'])
  .describe('what a remedy works on: a mesh, the texels of a texture, or files and names of any asset')
export type RemedyNeeds = z.infer<typeof remedyNeedsSchema>
export const remedyInfoSchema = z.strictObject({
  id: z.string(),
  station: stationSchema,
  needs: remedyNeedsSchema,
  title: z.string(),
  about: z.string(),
  fields: z.array(remedyFieldSchema),
})
export type RemedyInfo = z.infer<typeof remedyInfoSchema>

export const rulePageSchema = z.strictObject({
  rule: z.string(),
  text: z.string().describe('Markdown, made from the rule itself'),
})

export const undoSchema = z.strictObject({ revision: count })
export const faultReplySchema = z.strictObject({ fault: faultSchema })

const partState = z.enum(['ok', 'store/full', 'store/read-only', 'database/away', 'failed'])
/** What the server can do just now. */
export const healthSchema = z.strictObject({
  ok: z.boolean(),
  store: partState,
  database: partState,
  queue: z.strictObject({
    waiting: z.int(),
    running: z.int(),
    givenUp: z.int().describe('jobs that failed as often as they may'),
  }),
  waitsFor: z
    .enum(['store/full', 'store/read-only', 'database/away'])
    .nullable()
    .describe('what the work in the background waits for'),
})
export type Health = z.infer<typeof healthSchema>
