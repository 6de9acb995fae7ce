import * as z from 'zod'
import { remedyOptionsSchema } from '../finding'
import { textureRoleSchema } from '../rulebook/rulebook'

const bytes = z.number().min(0).describe('bytes in graphics memory, with all mips, as the target stores them')

/** Texture memory of a project at one target. */
export const projectMemorySchema = z.strictObject({
  target: z.string(),
  title: z.string(),
  limit: z.number().describe('bytes that the target allows a project'),
  bytes: bytes.describe('of every different texture once'),
  textures: z.int().min(0).describe('different textures'),
  shared: z.number().describe('bytes that are saved because several assets share a texture'),
  assets: z
    .array(z.strictObject({ asset: z.string(), name: z.string(), class: z.string(), bytes }))
    .describe('those that take most, the largest first; a shared texture counts for the first that has it'),
  rest: z.strictObject({ assets: z.int(), bytes }).describe('all others together'),
  roles: z.array(z.strictObject({ role: textureRoleSchema.nullable(), bytes })),
  savings: z
    .array(
      z.strictObject({
        asset: z.string(),
        name: z.string(),
        texture: z.string(),
        saves: z.number().positive(),
        why: z.enum(['empty', 'flat', 'side']),
        rule: z.string(),
        remedy: z.string(),
        options: remedyOptionsSchema,
        width: z.int(),
        height: z.int(),
      }),
    )
    .describe('the ten that save most, each by one step'),
})
export type ProjectMemory = z.infer<typeof projectMemorySchema>
export type MemorySaving = ProjectMemory['savings'][number]
