import * as z from 'zod'
import { pairingCellSchema, pairingSlotSchema, pairingTextureSchema } from '../pairing'
import { textureRoleSchema } from '../rulebook/rulebook'

/** Slots and textures of a project, or of what came by one delivery, that are paired together. */
export const pairingTableSchema = z.strictObject({
  slots: z.array(pairingSlotSchema),
  textures: z.array(pairingTextureSchema),
  decided: z
    .array(
      z.strictObject({
        slot: z.string(),
        input: textureRoleSchema,
        texture: z.string().nullable(),
        preset: z.string().nullable().optional(),
      }),
    )
    .describe('what recipes give to slots'),
  thumbnails: z.record(z.string(), z.string()).describe('hash of its small picture by the id of a texture'),
  colours: z
    .record(z.string(), z.tuple([z.number(), z.number(), z.number()]))
    .describe('base colour by the id of a slot, sRGB 0 to 255'),
  left: z.int().min(0).describe('meshes and texture sets beyond what is paired at once'),
})
export type PairingTable = z.infer<typeof pairingTableSchema>

/** How much there is to pair. */
export const pairingWaitingSchema = z.strictObject({
  meshes: z.int().describe('with slots that lack a texture'),
  sets: z.int().describe('texture sets that are no part of a mesh'),
})
export type PairingWaiting = z.infer<typeof pairingWaitingSchema>

export const pairingQuerySchema = z.strictObject({
  delivery: z.uuid().optional().describe('only slots of what came by it; without it all that wait'),
  also: z
    .string()
    .max(4000)
    .regex(/^[0-9a-f,-]*$/)
    .optional()
    .describe('ids of further meshes, joined by commas: those that were paired just now'),
})

/** Ids of slots and textures begin with that of the asset that holds them. */
const heldId = z
  .string()
  .max(2000)
  .regex(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12} › ./, 'is no id of a slot or a texture')

/** Cells that a person accepted. */
export const acceptPairingSchema = z.strictObject({
  cells: z
    .array(
      pairingCellSchema
        .pick({ slot: true, input: true, texture: true, preset: true, layout: true, inverted: true })
        .extend({ slot: heldId, texture: heldId.nullable() })
        .refine((c) => (c.texture === null) !== (c.preset === null), 'a texture, or a surface of values'),
    )
    .min(1)
    .max(5000),
})
export type AcceptPairing = z.infer<typeof acceptPairingSchema>
