import * as z from 'zod'
import {
  bad,
  manifestSchema,
  meshFactsSchema,
  reportSchema,
  rulebookSchema,
  textureFactsSchema,
  waiversFileSchema,
} from '@stern-gate/contract'
import { CannotRun } from './surroundings'

const schemas: Record<string, z.ZodType> = {
  report: reportSchema,
  rulebook: rulebookSchema,
  waivers: waiversFileSchema,
  manifest: manifestSchema,
  facts: z.discriminatedUnion('kind', [meshFactsSchema, textureFactsSchema]),
}

/** JSON Schema (2020-12) of one of the documents that stern-gate reads or writes. */
export function printSchema(name: string): string {
  const schema = schemas[name]
  if (!schema)
    throw new CannotRun(
      bad(
        'request/invalid',
        `There is no schema ${name}.`,
        `Choose one of: ${Object.keys(schemas).join(', ')}.`,
      ).fault,
    )
  return `${JSON.stringify(z.toJSONSchema(schema), null, 2)}\n`
}
