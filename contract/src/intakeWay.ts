import * as z from 'zod'
import { remedyOptionsSchema } from './finding'
import { absentFateSchema, apartWaySchema } from './scene'

/** A way of taking in a kind of source; the rulebook has them by name, as intake presets. */
export const intakeWaySchema = z.strictObject({
  options: remedyOptionsSchema.describe('unit, axes and what is left out: options of files/intake'),
  generator: z
    .string()
    .trim()
    .max(200)
    .default('')
    .describe('part of the generator string that it fits; empty: none'),
  folder: z.string().trim().max(200).default('').describe('part of the folder that it fits; empty: none'),
  mend: z.boolean().default(false).describe('what is safe to mend is mended as soon as an asset is judged'),
  apart: apartWaySchema
    .nullable()
    .default(null)
    .describe('way by which files of many objects are taken apart; null: as the rulebook says'),
  absent: absentFateSchema,
})
export type IntakeWay = z.infer<typeof intakeWaySchema>

/** Name of an intake preset. */
export const presetNameSchema = z.string().trim().min(1).max(60)

export const intakePresetSchema = intakeWaySchema.extend({ name: presetNameSchema })
export type IntakePreset = z.infer<typeof intakePresetSchema>
