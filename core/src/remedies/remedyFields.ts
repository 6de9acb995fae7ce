import * as z from 'zod'
import type { RecipeStep, RemedyField, RemedyInfo } from '@stern-gate/contract'
import type { Remedy } from './defineRemedy'
import { findRemedy } from './index'

/** What a person can fill in for a remedy, read from the schema of its options. */
export function remedyInfo(remedy: Remedy): RemedyInfo {
  const schema = z.toJSONSchema(remedy.options, { io: 'input' }) as { properties?: Record<string, JsonField> }
  return {
    id: remedy.id,
    station: remedy.station,
    needs: remedy.needs,
    title: remedy.title,
    about: remedy.about,
    fields: Object.entries(schema.properties ?? {}).map(([name, field]) => fieldOf(name, field)),
  }
}

interface JsonField {
  type?: string | string[]
  enum?: string[]
  anyOf?: JsonField[]
  description?: string
  /** What of the asset it names. */
  names?: RemedyField['kind']
  default?: string | number | boolean | null
  minimum?: number
  maximum?: number
  exclusiveMinimum?: number
}

function fieldOf(name: string, field: JsonField): RemedyField {
  const types = [...[field.type ?? []].flat(), ...(field.anyOf ?? []).flatMap((f) => f.type ?? [])]
  // Where nothing is taken, too, the limits stand beside the kind
  const { minimum, maximum } =
    field.anyOf?.find((f) => f.minimum !== undefined || f.maximum !== undefined) ?? field
  const choices = field.enum ?? field.anyOf?.find((f) => f.enum)?.enum
  return {
    name,
    about: field.description ?? '',
    kind: choices
      ? 'choice'
      : types.includes('boolean')
        ? 'switch'
        : types.includes('integer')
          ? 'whole'
          : types.includes('number')
            ? 'number'
            : (field.names ?? 'text'),
    ...(choices ? { choices } : {}),
    ...(field.default !== undefined ? { default: field.default } : {}),
    optional: types.includes('null'),
    ...(minimum !== undefined ? { min: minimum } : {}),
    ...(maximum !== undefined ? { max: maximum } : {}),
  }
}

/** What a step does, in a few words; its remedy's id where no remedy of this version has it. */
export function stepWords({ remedy: id, options }: Pick<RecipeStep, 'remedy' | 'options'>): string {
  const remedy = findRemedy(id)
  if (!remedy) return id
  const parsed = remedy.options.safeParse(options)
  return parsed.success ? remedy.words(parsed.data) : remedy.title
}
