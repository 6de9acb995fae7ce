import * as z from 'zod'
import { manifestSchema } from './dispatch'
import { meshFactsSchema } from './facts/meshFacts'
import { textureFactsSchema } from './facts/textureFacts'
import { pairingReportSchema } from './pairing'
import { reportSchema } from './report'
import { rulebookSchema } from './rulebook/rulebook'
import { surfaceFileSchema } from './surfaceFile'
import { waiverSchema, waiversFileSchema } from './waiver'

type JsonSchema = Record<string, unknown>

/** Documents that are read or written as files, as JSON Schema (2020-12), by name. */
export const publishedSchemas: Readonly<Record<string, () => JsonSchema>> = {
  report: () => schemaOf(reportSchema),
  rulebook: rulebookFile,
  waivers: () => schemaOf(waiversFileSchema, 'input'),
  pairing: () => schemaOf(pairingReportSchema),
  surface: () => schemaOf(surfaceFileSchema),
  manifest: () => schemaOf(manifestSchema),
  facts: () => schemaOf(z.discriminatedUnion('kind', [meshFactsSchema, textureFactsSchema])),
}

const schemaOf = (schema: z.ZodType, io: 'input' | 'output' = 'output'): JsonSchema =>
  z.toJSONSchema(schema, { io }) as JsonSchema

/**
 * A rulebook as a file may hold it: a part of one that goes on in another, with waivers. What a whole one needs is
 * checked once it is put together.
 */
function rulebookFile(): JsonSchema {
  const whole = withoutRequired(schemaOf(rulebookSchema, 'input')) as JsonSchema & { properties: JsonSchema }
  return {
    ...whole,
    properties: {
      ...whole.properties,
      extends: {
        type: 'string',
        description:
          'default, strict, relaxed, or the path of another file: what is not said here is as there',
      },
      waivers: { type: 'array', items: schemaOf(waiverSchema, 'input') },
    },
  }
}

function withoutRequired(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withoutRequired)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([key, v]) => !(key === 'required' && Array.isArray(v)))
      .map(([key, v]) => [key, withoutRequired(v)]),
  )
}
