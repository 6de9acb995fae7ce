import * as z from 'zod'
import { surfaceSettings, surfaceSettingSchema } from '../carryOver'
import { intakeWaySchema, presetNameSchema } from '../intakeWay'
import { defaultTerms, originSchema, termsSchema } from '../origin'
import { scenePlanSchema } from '../scene'
import { levelSchema } from '../station'

/** What a texture carries; the first part of words.md's role list. */
export const textureRoles = [
  'basecolor',
  'normal',
  'orm',
  'occlusion',
  'roughness',
  'metallic',
  'emissive',
  'opacity',
  'height',
  'tint',
] as const
export const textureRoleSchema = z.enum(textureRoles)
export type TextureRole = z.infer<typeof textureRoleSchema>

export const roleRuleSchema = z.strictObject({
  space: z.enum(['srgb', 'linear']),
  synonyms: z.array(z.string()).describe('matched as whole parts of a name, lower case'),
})

export const pivotKinds = ['base-centre', 'centre', 'corner', 'origin-inside', 'any'] as const
export const pivotKindSchema = z.enum(pivotKinds)
export type PivotKind = z.infer<typeof pivotKindSchema>

export const classSchema = z.strictObject({
  title: z.string(),
  folders: z.array(z.string()).describe('a delivery folder of this name gives the class'),
  words: z.array(z.string()).describe('a name with one of these parts gives the class'),
  longestSide: z.strictObject({ min: z.number().positive(), max: z.number().positive() }).describe('metres'),
  triangles: z.strictObject({ caution: z.int().positive(), stop: z.int().positive() }),
  slots: z.int().positive(),
  texelsPerMetre: z.number().positive(),
  pivots: z.array(pivotKindSchema).min(1).describe('any of these is right'),
  inputs: z.array(textureRoleSchema).describe('inputs that each slot must have'),
  lodsAbove: z.int().min(0).nullable().describe('triangles above which a LOD chain is a must; null: never'),
  cull: z
    .boolean()
    .default(false)
    .describe('it is scattered by the thousand: from some distance on it must not be drawn'),
  collision: z.boolean(),
  lightmap: z.boolean(),
  dataChannels: z
    .array(z.int().min(0).max(7))
    .default([])
    .describe(
      'UV channels that carry data, such as a ramp for a tint: where they lie on a sheet is no fault; counted from 0',
    ),
  lightmapChannel: z.int().min(0).max(7).default(1).describe('UV channel for baked light, counted from 0'),
  lightmapTexels: z
    .int()
    .min(16)
    .max(8192)
    .default(256)
    .describe('texels that a side of its lightmap has: UVs are laid out for them'),
  repeat: z.boolean().describe('the texture channel may leave 0 … 1'),
  mirroredUvs: z.enum(['allowed', 'note', 'stop']).describe('what a mirrored texture channel is'),
})
export type AssetClass = z.infer<typeof classSchema>

/** Block formats that textures are stored in, with the side of a block in texels and its bytes. */
export const blockFormats = {
  BC1: { width: 4, height: 4, bytes: 8 },
  BC3: { width: 4, height: 4, bytes: 16 },
  BC4: { width: 4, height: 4, bytes: 8 },
  BC5: { width: 4, height: 4, bytes: 16 },
  BC6H: { width: 4, height: 4, bytes: 16 },
  BC7: { width: 4, height: 4, bytes: 16 },
  'ASTC 4×4': { width: 4, height: 4, bytes: 16 },
  'ASTC 5×5': { width: 5, height: 5, bytes: 16 },
  'ASTC 6×6': { width: 6, height: 6, bytes: 16 },
  'ASTC 8×8': { width: 8, height: 8, bytes: 16 },
  ETC2: { width: 4, height: 4, bytes: 16 },
  ETC1S: { width: 4, height: 4, bytes: 8 },
  UASTC: { width: 4, height: 4, bytes: 16 },
  plain: { width: 1, height: 1, bytes: 4 },
} as const
export const blockFormatNameSchema = z.enum(
  Object.keys(blockFormats) as [keyof typeof blockFormats, ...(keyof typeof blockFormats)[]],
)
export type BlockFormatName = z.infer<typeof blockFormatNameSchema>

/** An order of packed channels: a letter for each, see core/rulebook/layoutLetters; x for one that carries nothing. */
export const CHANNEL_ORDER = /^[oarmgshx]{3,4}$/

/** Words of a texture's name that say in which order its channels are packed. */
export const channelLayoutSchema = z.strictObject({
  words: z.array(z.string().min(1).max(40)).default([]).describe('besides the letters themselves'),
})

/** Orders of occlusion, roughness and metallic that a map of another custom may come in. */
export const defaultLayouts: Readonly<Record<string, z.infer<typeof channelLayoutSchema>>> =
  Object.fromEntries(['orm', 'omr', 'rom', 'rmo', 'mor', 'mro', 'xrm', 'xmr'].map((o) => [o, { words: [] }]))

/** How whoever receives a target's files reads them, where that is another way than the project's. */
export const conventionsSchema = z.strictObject({
  green: z
    .enum(['up', 'down'])
    .nullable()
    .default(null)
    .describe('the way that green of normal maps points there; null: as in the project'),
  packed: z
    .string()
    .regex(CHANNEL_ORDER)
    .nullable()
    .default(null)
    .describe(
      'order of the channels of packed maps there, such as mro; null: occlusion, roughness, metallic',
    ),
  up: z.enum(['+Y', '+Z']).nullable().default(null).describe('the axis that is up there; null: +Y'),
  unitMetres: z
    .number()
    .positive()
    .min(1e-4)
    .max(1e4)
    .nullable()
    .default(null)
    .describe('metres that one unit stands for there; null: one'),
  gloss: z
    .boolean()
    .default(false)
    .describe('roughness is read as gloss there; an order of packed channels that is said wins'),
  lightmapChannel: z
    .int()
    .min(0)
    .max(7)
    .nullable()
    .default(null)
    .describe('UV channel of baked light there, counted from 0; null: as the class says'),
  levelFiles: z.boolean().default(false).describe('it takes each coarser level as a file of its own'),
  hullFiles: z.boolean().default(false).describe('it takes collision as a file of its own'),
})
export type Conventions = z.infer<typeof conventionsSchema>

export const targetSchema = z.strictObject({
  title: z.string(),
  screen: z.strictObject({ width: z.int(), height: z.int(), fovDegrees: z.number() }),
  largestSide: z.int().positive(),
  size: z.enum(['power-of-two', 'multiple-of-four']),
  textureMemoryMiB: z.strictObject({ asset: z.number(), project: z.number() }),
  uvChannels: z.int(),
  inputsPerSlot: z.int(),
  tileSets: z.boolean(),
  formats: z
    .record(textureRoleSchema, blockFormatNameSchema)
    .describe('block format by role; bytes of ETC1S and UASTC are those in graphics memory'),
  takes: z
    .array(surfaceSettingSchema)
    .default([...surfaceSettings])
    .describe('settings of a surface that it draws; what is not here is lost there'),
  makesSizes: z
    .boolean()
    .default(false)
    .describe(
      'textures are brought to its sizes as they go out to it; else what does not fit holds the asset',
    ),
  measuresError: z
    .boolean()
    .default(false)
    .describe('what textures lose in its formats is measured as they are judged, which takes its time'),
  conventions: conventionsSchema
    .default(() => conventionsSchema.parse({}))
    .describe('made as an asset goes out to it, and never in the asset itself'),
})
export type Target = z.infer<typeof targetSchema>

export const patternsSchema = z.strictObject({
  mesh: z.string(),
  lod: z.string(),
  collision: z.string(),
  texture: z.string(),
  slot: z.string(),
  clip: z.string(),
})
export type Patterns = z.infer<typeof patternsSchema>
export type PatternKind = keyof Patterns

export const ruleSettingSchema = z.strictObject({
  enabled: z.boolean().optional(),
  level: levelSchema.optional(),
  levelByClass: z
    .record(z.string(), z.union([levelSchema, z.literal('off')]))
    .optional()
    .describe('level for assets of a class, over that for all; off: not judged for it'),
  options: z.record(z.string(), z.unknown()).optional(),
})

/** A surface of the project: any slot of any asset can follow it, and changes with it. */
export const sharedSurfaceSchema = z.strictObject({
  follows: z
    .string()
    .nullable()
    .default(null)
    .describe('another surface of the rulebook, of which it overrides some values; null: none'),
  preset: z.string().nullable().default(null).describe('a surface that ships, to begin with; null: none'),
  values: z
    .record(z.string(), z.union([z.string(), z.number(), z.boolean()]))
    .default({})
    .describe('what it sets itself: options of slots/surface'),
})
export type SharedSurface = z.infer<typeof sharedSurfaceSchema>

/** Names of what models are measured against and set upon, in a rulebook that does not say otherwise. */
export const defaultFigures: readonly string[] = [
  'figure',
  'human',
  'mannequin',
  'manikin',
  'person',
  'scale person',
  'scale ref',
  'size ref',
  'reference',
  'host',
]

/**
 * The rules with their limits, patterns, classes and targets of a project; every saved change is a revision.
 */
export const rulebookSchema = z
  .strictObject({
    $schema: z.string().optional().describe('for editors; not read'),
    format: z.literal('stern-gate-rulebook/1'),
    name: z.string(),
    patterns: patternsSchema,
    roles: z.record(textureRoleSchema, roleRuleSchema),
    defaultClass: z.string(),
    classes: z.record(z.string(), classSchema),
    defaultTarget: z.string(),
    targets: z.record(z.string(), targetSchema),
    personHeight: z.number().positive().describe('metres'),
    gridStep: z
      .number()
      .positive()
      .nullable()
      .default(null)
      .describe('metres between the strong lines of the grid; null: by the size of what stands on it'),
    green: z.enum(['up', 'down']).describe('the way that green points in this project'),
    colourTags: z
      .enum(['count', 'ignored'])
      .default('count')
      .describe('what colour tags in texture files mean: read by somebody, or ignored by everybody'),
    figures: z
      .array(z.string().min(1).max(60))
      .default(() => [...defaultFigures])
      .describe('words by which a node is a reference figure or a host mesh, and no part of the thing'),
    scenes: z
      .array(
        z.strictObject({
          files: z.string().min(1).max(300).describe('glob of paths, such as sets/**'),
          plan: scenePlanSchema,
        }),
      )
      .default([])
      .describe('files of many objects that are taken apart as they arrive, and how; later ones win'),
    intake: z
      .record(presetNameSchema, intakeWaySchema)
      .default({})
      .describe('intake presets: named ways of taking in a kind of source'),
    layouts: z
      .record(z.string().regex(CHANNEL_ORDER), channelLayoutSchema)
      .default(() => ({ ...defaultLayouts }))
      .describe(
        'orders of packed channels that maps come in, by a letter for each: o or a occlusion, r roughness, g or s ' +
          'gloss, m metallic, h height, x nothing',
      ),
    surfaces: z
      .record(z.string().min(1).max(60), sharedSurfaceSchema)
      .default({})
      .describe('surfaces of the project that slots can follow, by name'),
    terms: z
      .record(z.string().min(1).max(60), termsSchema)
      .default(() => ({ ...defaultTerms }))
      .describe('terms by which assets may be used, and what each allows'),
    origins: z
      .array(
        z.strictObject({
          files: z.string().min(1).max(300).describe('glob of paths, such as bought/**'),
          origin: originSchema,
        }),
      )
      .default([])
      .describe('where what lies in a folder came from; later ones win, and what is said of an asset itself'),
    rules: z.record(z.string(), ruleSettingSchema),
    overrides: z
      .array(
        z.strictObject({
          files: z.string().min(1).max(300).describe('glob of paths, such as props/old/**'),
          rules: z.record(z.string(), ruleSettingSchema),
        }),
      )
      .default([])
      .describe('other levels and limits for assets whose file lies there; later ones win'),
  })
  .refine((b) => b.defaultClass in b.classes, {
    path: ['defaultClass'],
    message: 'names no class of this rulebook',
  })
  .refine((b) => b.defaultTarget in b.targets, {
    path: ['defaultTarget'],
    message: 'names no target of this rulebook',
  })
export type Rulebook = z.infer<typeof rulebookSchema>
