import * as z from 'zod'
import {
  alphaMeaningSchema,
  detailSchema,
  secondLayerSchema,
  slotInputSchema,
  tintSchema,
} from './facts/slotFacts'
import { remedyOptionsSchema } from './finding'

/** What a surface file of this form says of itself. */
export const SURFACE_FILE = 'stern-gate/surface-1'
/** Surface files end so. */
export const SURFACE_ENDING = '.surface.json'

/** The surface of one slot as a file beside the mesh: what glTF carries of it and what it does not, in one place. */
export const surfaceFileSchema = z.strictObject({
  form: z.literal(SURFACE_FILE),
  slot: z.string().describe('name of the slot in the mesh'),
  surface: z.string().nullable().describe('name of the preset or surface of the project; null: none'),
  values: remedyOptionsSchema.describe(
    'by the names of the options of slots/surface: colours as #rrggbb in sRGB, lengths in metres, shares of 0 to 1',
  ),
  textures: z.array(
    z.strictObject({
      input: slotInputSchema,
      field: z
        .string()
        .describe(
          'name of the input in glTF; height, tint, layer, layerNormal, layerRoughness, detail and detailNormal where glTF has none',
        ),
      file: z.string().nullable().describe('from this file; null: the file was never there'),
      uv: z.int().min(0).describe('UV channel, counted from 0'),
      tiling: z.tuple([z.number(), z.number()]),
      offset: z.tuple([z.number(), z.number()]),
      turn: z.number().describe('degrees, counter-clockwise'),
    }),
  ),
  tints: z.array(tintSchema),
  alphaMeans: alphaMeaningSchema.nullable(),
  layer: secondLayerSchema.nullable(),
  detail: detailSchema.nullable().default(null),
})
export type SurfaceFile = z.infer<typeof surfaceFileSchema>
