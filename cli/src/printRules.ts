import * as z from 'zod'
import { remedies, rules } from '@stern-gate/core'

interface Described {
  id: string
  station: string
  level: string
  title: string
  why: string
  options: Record<string, { default?: unknown; description?: string }>
}

/** Every rule with its level and limits, and every remedy with its options. */
export function printRules(format: string): string {
  const described: Described[] = rules.map((rule) => ({
    id: rule.id,
    station: rule.station,
    level: rule.meta.level,
    title: rule.meta.title,
    why: rule.meta.why,
    options: optionsOf(rule.options),
  }))
  const mends = remedies.map((r) => ({
    id: r.id,
    title: r.title,
    about: r.about,
    options: optionsOf(r.options),
  }))
  if (format === 'json') return `${JSON.stringify({ rules: described, remedies: mends }, null, 2)}\n`
  const lines = described.flatMap((r) => [`${r.id}  (${r.level})  ${r.title}`, ...limits(r.options)])
  return [
    ...lines,
    '',
    'Remedies',
    ...mends.flatMap((m) => [`${m.id}  ${m.title}`, ...limits(m.options)]),
    '',
  ].join('\n')
}

const limits = (options: Described['options']): string[] =>
  Object.entries(options).map(
    ([name, o]) =>
      `    ${name}${o.default === undefined ? '' : ` = ${JSON.stringify(o.default)}`}  ${o.description ?? ''}`,
  )

function optionsOf(schema: z.ZodType): Described['options'] {
  const json = z.toJSONSchema(schema, { io: 'input' }) as { properties?: Described['options'] }
  return json.properties ?? {}
}
