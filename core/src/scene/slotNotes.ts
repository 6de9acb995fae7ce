import type { Material } from '@gltf-transform/core'
import * as z from 'zod'
import { alphaMeaningSchema, detailSchema, secondLayerSchema, tintSchema } from '@stern-gate/contract'

/** Where notes of ours stand in the extras of a slot: what other programs write there under common words is theirs. */
const KEY = 'stern-gate'

/** Name of the surface that the slot of a card notes: a slot that only a far level has. */
export const CARD = 'card'

const notesSchema = z.object({
  /** Name of the surface of values that a step gave it. */
  surface: z.string().optional().catch(undefined),
  /** Textures of inputs that glTF has not, by role: their path from the mesh, or their name inside it. */
  inputs: z.record(z.string(), z.string()).optional().catch(undefined),
  /** Channels of the mask that it declares, with their colours. */
  tints: z.array(tintSchema).max(4).optional().catch(undefined),
  /** A second layer over it. */
  layer: secondLayerSchema.optional().catch(undefined),
  /** A detail map over it. */
  detail: detailSchema.optional().catch(undefined),
  /** Metres between black and white of its height map. */
  heightDepth: z.number().min(0).max(10).optional().catch(undefined),
  /** How it is blended, where glTF has no word for it. */
  blending: z.literal('add').optional().catch(undefined),
  /** What the alpha of the base colour means. */
  alpha: alphaMeaningSchema.optional().catch(undefined),
})

/** What an output notes of a slot. */
export type SlotNotes = z.infer<typeof notesSchema>

/** The notes of a slot; empty where there are none. A note that cannot be read counts as none. */
export function slotNotes(slot: Material): SlotNotes {
  const notes = notesSchema.safeParse(slot.getExtras()[KEY])
  if (!notes.success) return {}
  return Object.fromEntries(Object.entries(notes.data).filter(([, value]) => value !== undefined))
}

/** Adds to the notes of a slot; what is `undefined` is taken out. Gives whether they are others now. */
export function noteOfSlot(slot: Material, notes: SlotNotes): boolean {
  const before = JSON.stringify(slotNotes(slot))
  slot.setExtras({ ...slot.getExtras(), [KEY]: { ...slotNotes(slot), ...notes } })
  return JSON.stringify(slotNotes(slot)) !== before
}
