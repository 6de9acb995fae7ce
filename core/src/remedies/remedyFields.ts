import * as z from 'zod'
import type { RecipeStep, RemedyField, RemedyInfo, RuleField } from '@stern-gate/contract'
import type { Remedy } from './defineRemedy'
import { findRemedy } from './index'

/** What a person can fill in for a remedy, read from the schema of its options. */
export function remedyInfo(remedy: Remedy): RemedyInfo {
  return {
    id: remedy.id,
    station: remedy.station,
    needs: remedy.needs,
    title: remedy.title,
    about: remedy.about,
    fields: optionFields(remedy.options) as RemedyField[],
  }
}

/** Fields of a form for options, of a remedy or of a rule, read from their schema. */
export function optionFields(options: z.ZodType): (RemedyField | RuleField)[] {
  const schema = z.toJSONSchema(options, { io: 'input' }) as { properties?: Record<string, JsonField> }
  return Object.entries(schema.properties ?? {}).map(([name, field]) => fieldOf(name, field))
}

interface JsonField {
  type?: string | string[]
  items?: JsonField
  enum?: string[]
  anyOf?: JsonField[]
  description?: string
  /** What of the asset it names. */
  names?: RemedyField['kind']
  default?: string | number | boolean | null | string[] | number[]
  minimum?: number
  maximum?: number
  exclusiveMinimum?: number
  maxItems?: number
}

function fieldOf(name: string, field: JsonField): RemedyField | RuleField {
  const types = [...[field.type ?? []].flat(), ...(field.anyOf ?? []).flatMap((f) => f.type ?? [])]
  // Where nothing is taken, too, the limits stand beside the kind
  const { minimum, maximum } =
    field.items ?? field.anyOf?.find((f) => f.minimum !== undefined || f.maximum !== undefined) ?? field
  const isList = types.includes('array')
  const choices = field.items?.enum ?? field.enum ?? field.anyOf?.find((f) => f.enum)?.enum
  return {
    name,
    about: field.description ?? '',
    kind: isList
      ? field.items?.type === 'number'
        ? 'numbers'
        : 'list'
      : choices
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
    ...(isList && field.maxItems !== undefined ? { items: field.maxItems } : {}),
  } as RemedyField | RuleField
}

/** What a step does, in a few words; its remedy's id where no remedy of this version has it. */
export function stepWords({ remedy: id, options }: Pick<RecipeStep, 'remedy' | 'options'>): string {
  const remedy = findRemedy(id)
  if (!remedy) return id
  const parsed = remedy.options.safeParse(options)
  return parsed.success ? remedy.words(parsed.data) : remedy.title
}
