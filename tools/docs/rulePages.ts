import * as z from 'zod'
import { glossary, stationTitles } from '@stern-gate/contract'
import { rules, type Rule, type RuleMessage } from '@stern-gate/core'
import { ruleCases, type RuleCase } from '@stern-gate/core/fixtures'

const fileOf = (rule: Rule): string => `${rule.id.replace('/', '-')}.md`

/** Pages of all rules by file name, with an index; made from meta, options, messages and cases alone. */
export function rulePages(): Record<string, string> {
  const index = [
    '<!-- Made by `npm run docs` from the rules themselves; do not edit. -->',
    '# Rules',
    '',
    '| rule | level | what it asks |',
    '|---|---|---|',
    ...rules.map((r) => `| [${r.id}](${fileOf(r)}) | ${r.meta.level} | ${r.meta.title} |`),
    '',
  ].join('\n')
  return { 'README.md': index, ...Object.fromEntries(rules.map((rule) => [fileOf(rule), pageOf(rule)])) }
}

function pageOf(rule: Rule): string {
  const json = z.toJSONSchema(rule.options, { io: 'input' }) as {
    properties?: Record<string, { default?: unknown; description?: string }>
  }
  const options = Object.entries(json.properties ?? {})
  const cases = ruleCases[rule.id]!
  const line = (c: RuleCase) =>
    [
      `- ${c.words}`,
      c.options ? ` (options ${JSON.stringify(c.options)})` : '',
      c.settings ? ` (${JSON.stringify(c.settings)})` : '',
      c.says.length > 0 ? ` → ${c.says.join(', ')}` : '',
      c.mends ? '; the remedy mends it' : '',
    ].join('')
  return [
    '<!-- Made by `npm run docs` from the rule itself; do not edit. -->',
    `# ${rule.id}`,
    '',
    `**${rule.meta.title}.** ${rule.meta.why}`,
    '',
    [
      `Station ${stationTitles[rule.station]}`,
      `level ${rule.meta.level}`,
      `looks at ${rule.meta.kinds.join(' and ')}`,
      `reads ${rule.meta.reads.join(', ')}.`,
    ].join(' · '),
    '',
    '## Limits',
    '',
    ...(options.length === 0
      ? ['None of its own.']
      : [
          '| option | default | meaning |',
          '|---|---|---|',
          ...options.map(
            ([name, o]) => `| ${name} | \`${JSON.stringify(o.default)}\` | ${o.description ?? ''} |`,
          ),
        ]),
    '',
    '## What it says',
    '',
    ...Object.entries(rule.messages).map(
      ([key, m]) =>
        `- \`${key}\`${typeof m === 'string' ? '' : markOf(m)}: ${typeof m === 'string' ? m : m.text}`,
    ),
    '',
    ...(Object.keys(rule.labels).length > 0
      ? ['## Remedies offered', '', ...Object.values(rule.labels).map((l) => `- ${String(l)}`), '']
      : []),
    '## Cases that are tested',
    '',
    'Clean:',
    '',
    ...cases.clean.map(line),
    '',
    'Broken:',
    '',
    ...cases.broken.map(line),
    '',
  ].join('\n')
}

/** docs/glossary.md, from the glossary of the contract. */
export const glossaryPage = (): string =>
  [
    '<!-- Made by `npm run docs` from contract/src/glossary.ts; do not edit. -->',
    '# Glossary',
    '',
    'Terms as they stand beside the stages of the bench; the “?” beside a term opens its entry there. Words of the',
    'application itself (delivery, recipe, remedy, verdict …) are explained in the README.',
    '',
    ...Object.entries(glossary).map(([term, means]) => `- **${term}**: ${means}`),
    '',
  ].join('\n')

/** What a message says of its level, where it says anything. */
function markOf({ level, byClass }: Exclude<RuleMessage, string>): string {
  const words = [...(level ? [level] : []), ...(byClass ? ['a note while the class is only guessed'] : [])]
  return words.length > 0 ? ` (${words.join('; ')})` : ''
}
