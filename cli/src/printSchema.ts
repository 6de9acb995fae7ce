import { bad, publishedSchemas } from '@stern-gate/contract'
import { CannotRun } from './surroundings'

/** JSON Schema (2020-12) of one of the documents that stern-gate reads or writes. */
export function printSchema(name: string): string {
  const schema = Object.hasOwn(publishedSchemas, name) ? publishedSchemas[name] : undefined
  if (!schema)
    throw new CannotRun(
      bad(
        'request/invalid',
        `There is no schema ${name}.`,
        `Choose one of: ${Object.keys(publishedSchemas).join(', ')}.`,
      ).fault,
    )
  return `${JSON.stringify(schema(), null, 2)}\n`
}
