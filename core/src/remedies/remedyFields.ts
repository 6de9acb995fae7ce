import * as z from 'zod'
import { invariant, stations, type RemedyField, type RemedyInfo } from '@stern-gate/contract'
import type { Remedy } from './defineRemedy'

/** What a person can fill in for a remedy, read from the schema of its options. */
export function remedyInfo(remedy: Remedy): RemedyInfo {
  const station = stations.find((s) => remedy.id.startsWith(`${s}/`))
  invariant(station, `remedy ${remedy.id} stands at no station`)
  const schema = z.toJSONSchema(remedy.options, { io: 'input' }) as { properties?: Record<string, JsonField> }
  return {
    id: remedy.id,
    station,
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
            : (things[name] ?? 'text'),
    ...(choices ? { choices } : {}),
    ...(field.default !== undefined ? { default: field.default } : {}),
    optional: types.includes('null'),
    ...(minimum !== undefined ? { min: minimum } : {}),
    ...(maximum !== undefined ? { max: maximum } : {}),
  }
}

/** Fields that name something of the asset. */
const things: Record<string, RemedyField['kind']> = {
  node: 'node',
  slot: 'slot',
  keep: 'slot',
  texture: 'texture',
  clip: 'clip',
  asked: 'missing',
}
