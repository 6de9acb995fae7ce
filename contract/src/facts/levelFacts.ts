import * as z from 'zod'

/** How far a coarser level is off the finest one. */
export const levelErrorSchema = z.strictObject({
  level: z.int().min(0),
  most: z.number().min(0).describe('the furthest that one lies off the other, both ways, metres'),
  within99: z.number().min(0).describe('99 % of the samples lie no further off, metres'),
  normals: z.number().describe('mean angle between its triangles and those that lie nearest, degrees'),
  uv: z.number().nullable().describe('95 % of UV0 is no further off, in sheets; null without UVs on both'),
  outline: z
    .number()
    .nullable()
    .describe('pixels that one outline covers and the other not, as a share, over a ring of views'),
  samples: z.int().min(0).describe('points on each surface, spread by area and seeded'),
  cuts: z
    .strictObject({
      shared: z.int().min(0).describe('sampled pairs of triangles that have the same four corners on both'),
      other: z.int().min(0).describe('of them those that are cut along the other diagonal'),
    })
    .default({ shared: 0, other: 0 }),
})
export type LevelErrorFacts = z.infer<typeof levelErrorSchema>

/** What is measured of a chain of levels. */
export const chainFactsSchema = z.strictObject({
  errors: z.array(levelErrorSchema).describe('of every level but the finest'),
  radius: z.number().describe('of a ball around the finest level, metres'),
  coverages: z
    .array(z.number())
    .nullable()
    .describe('least coverage of the screen at which each level is drawn, as the file says; null: nothing'),
})
export type ChainFacts = z.infer<typeof chainFactsSchema>
