import * as z from 'zod'
import { faultSchema } from './fault'
import { textureRoleSchema } from './rulebook/rulebook'

/** A loose texture that may feed a slot. */
export const pairingTextureSchema = z.strictObject({
  id: z.string().describe('tells it from all others of the problem'),
  path: z.string().describe('path in its delivery'),
  owner: z.string().nullable().describe('the asset that holds it now; null: none does'),
  sha256: z.string(),
  width: z.int().min(0).describe('texels; 0: not known'),
  height: z.int().min(0).describe('texels; 0: not known'),
  content: z
    .array(z.strictObject({ role: textureRoleSchema, probability: z.number() }))
    .describe('what its pixels say that it carries, the most likely first; empty: they say nothing'),
})
export type PairingTexture = z.infer<typeof pairingTextureSchema>

/** A material slot of a mesh, with what feeds it already. */
export const pairingSlotSchema = z.strictObject({
  id: z.string().describe('tells it from all others of the problem'),
  asset: z.string().describe('name of the asset'),
  owner: z.string().nullable().describe('id of the asset; null on the command line'),
  slot: z.string(),
  nodes: z.array(z.string()).describe('names of the nodes that draw it'),
  path: z.string().describe('path of the mesh file'),
  share: z.number().min(0).max(1).describe('of the surface'),
  wants: z.array(textureRoleSchema).describe('inputs that the class asks for'),
  wired: z.array(
    z.strictObject({
      input: textureRoleSchema,
      texture: z.string().describe('name of the texture'),
      id: z.string().nullable().describe('of the loose texture; null: it stands inside the mesh'),
    }),
  ),
})
export type PairingSlot = z.infer<typeof pairingSlotSchema>

/** A texture that could feed a cell. */
export const pairingChoiceSchema = z.strictObject({
  texture: z.string().describe('id of the texture'),
  confidence: z.number().min(0).max(1),
  reason: z.string(),
})
export type PairingChoice = z.infer<typeof pairingChoiceSchema>

/** A surface of values for a slot that has no textures. */
export const surfaceSuggestionSchema = z.strictObject({
  preset: z.string(),
  title: z.string(),
  confidence: z.number().min(0).max(1),
  reason: z.string(),
})
export type SurfaceSuggestion = z.infer<typeof surfaceSuggestionSchema>

/** One input of one slot. */
export const pairingCellSchema = z.strictObject({
  slot: z.string().describe('id of the slot'),
  input: textureRoleSchema,
  state: z.enum(['wired', 'found', 'open']).describe('wired: it is fed already, by the file or by a person'),
  texture: z.string().nullable().describe('id of the texture; null: open, or inside the mesh'),
  preset: z
    .string()
    .nullable()
    .describe('the surface of values that stands in the place of textures; null: none does'),
  name: z.string().describe('name of the texture or of the surface; empty: open'),
  confidence: z.number().min(0).max(1).describe('that it is the right one; of a wired cell 1'),
  reason: z.string(),
  others: z.array(pairingChoiceSchema).describe('the next best'),
  rivals: z.array(z.string()).describe('ids of slots that want the same texture about as much'),
  wrongInput: textureRoleSchema
    .nullable()
    .describe('what its pixels say that it is, where that is something else'),
  layout: z
    .string()
    .nullable()
    .describe('order of a packed texture’s channels by its name, such as rma; null: as glTF has it'),
  inverted: z.boolean().describe('it carries gloss, and roughness is wanted'),
})
export type PairingCell = z.infer<typeof pairingCellSchema>

/** A texture that no cell has. */
export const trayTextureSchema = z.strictObject({
  texture: z.string().describe('id of the texture'),
  role: textureRoleSchema.nullable(),
  note: z.string().describe('why it lies here'),
})
export type TrayTexture = z.infer<typeof trayTextureSchema>

/** Which texture feeds which input of which slot. */
export const pairingSchema = z.strictObject({
  cells: z.array(pairingCellSchema),
  tray: z.array(trayTextureSchema),
})
export type Pairing = z.infer<typeof pairingSchema>

/** What `stern-gate pair --format json` prints. */
export const pairingReportSchema = z.strictObject({
  format: z.literal('stern-gate-pairing/1'),
  version: z.string().describe('of stern-gate'),
  accept: z.number().min(0).max(1).describe('cells from this confidence on are accepted'),
  totals: z.strictObject({
    slots: z.int(),
    textures: z.int(),
    wired: z.int().describe('cells that were fed before'),
    accepted: z.int(),
    unsure: z.int().describe('found, but below what is accepted'),
    open: z.int(),
    tray: z.int().describe('textures that no cell has'),
  }),
  slots: z.array(pairingSlotSchema),
  textures: z.array(pairingTextureSchema),
  ...pairingSchema.shape,
  refused: z.array(faultSchema).describe('files that could not be read'),
})
export type PairingReport = z.infer<typeof pairingReportSchema>

/** Slots and textures that are paired together. */
export interface PairingProblem {
  slots: readonly PairingSlot[]
  textures: readonly PairingTexture[]
}

/** A cell that a person has decided; null: it stays open. */
export interface PairingDecision {
  slot: string
  input: PairingCell['input']
  texture: string | null
  /** A surface of values in the place of a base colour. */
  preset?: string | null | undefined
}

/** Cells from this confidence on are accepted together, where nothing else is said. */
export const ACCEPT_FROM = 0.9
