import * as z from 'zod'

/** Settings of a surface that not every target takes. */
export const surfaceSettings = [
  'emissive strength',
  'refraction index',
  'transmission',
  'thickness',
  'specular level',
  'clear coat',
  'sheen',
  'anisotropy',
  'iridescence',
  'scattering',
  'texture placement',
  'height',
  'mask',
  'second layer',
  'detail map',
  'blending',
  'additive blending',
  'both sides',
] as const
export const surfaceSettingSchema = z.enum(surfaceSettings)
export type SurfaceSetting = z.infer<typeof surfaceSettingSchema>

/** What becomes of one setting of a slot at a target. */
export const carriedSettingSchema = z.strictObject({
  slot: z.string(),
  setting: z.union([surfaceSettingSchema, z.literal('inputs'), z.literal('UV channel')]),
  value: z.string().describe('as it is set'),
  fate: z.enum(['kept', 'changed', 'lost']),
  how: z.string().describe('what becomes of it, in words; empty where it is kept'),
})
export type CarriedSetting = z.infer<typeof carriedSettingSchema>
