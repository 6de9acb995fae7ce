import * as z from 'zod'

/** What the open standard's own validator says of a glTF file: its errors, by code. */
export const standardFactsSchema = z.strictObject({
  errors: z.array(
    z.strictObject({
      code: z.string().describe('of the validator, such as ACCESSOR_VECTOR3_NON_UNIT'),
      count: z.int().min(1),
      first: z.string().describe('where the first of them stands, as a JSON pointer; empty: the whole file'),
    }),
  ),
  all: z.boolean().describe('false: there were more than are counted'),
})
export type StandardFacts = z.infer<typeof standardFactsSchema>
