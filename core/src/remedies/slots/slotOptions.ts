import * as z from 'zod'

/** Option that names a texture of the asset; null: none. */
export const textureOption = (about: string) =>
  z.string().nullable().default(null).describe(about).meta({ names: 'texture' })

/** Option that is a colour in sRGB, #rrggbb; null: nothing is said. */
export const colourOption = (about: string) =>
  z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/, 'a colour is written #rrggbb')
    .nullable()
    .default(null)
    .describe(about)
    .meta({ names: 'colour' })
