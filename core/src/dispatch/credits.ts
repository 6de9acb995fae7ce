import type { Origin, Terms } from '@stern-gate/contract'

/** An asset of a list of credits. */
export interface Credited {
  name: string
  origin: Origin | null
  terms: Terms | null
}

/** Characters that Markdown would take for something else. */
const plain = (text: string): string => text.replace(/[\\`*_[\]<>|#]/g, '\\$&').replace(/\s+/g, ' ')

/**
 * Credits of a package as Markdown: first what must be named, by author, then everything else that has an origin, then
 * what has none.
 */
export function creditsMarkdown(title: string, assets: readonly Credited[]): string {
  const wanted = assets.filter((a) => a.terms?.handOver === 'with credit'),
    others = assets.filter((a) => a.origin !== null && a.terms?.handOver !== 'with credit'),
    unknown = assets.filter((a) => a.origin === null)
  const section = (heading: string, list: readonly Credited[], line: (a: Credited) => string): string[] =>
    list.length === 0 ? [] : [`## ${heading}`, '', ...sorted(list).map((a) => `- ${line(a)}`), '']
  return [
    `# Credits: ${plain(title)}`,
    '',
    ...section('To be named', wanted, describe),
    ...section('Further origins', others, describe),
    ...section('Origin not known', unknown, (a) => plain(a.name)),
  ]
    .join('\n')
    .trimEnd()
    .concat('\n')
}

function describe({ name, origin, terms }: Credited): string {
  const { author = '', source = '', link = '' } = origin ?? {}
  const parts = [
    author && `by ${plain(author)}`,
    source && plain(source),
    terms && plain(terms.title),
  ].filter(Boolean)
  const web = /^https?:\/\//i.test(link) ? `, <${link.replace(/[<>\s]/g, encodeURIComponent)}>` : ''
  return `**${plain(name)}**${parts.length > 0 ? `: ${parts.join(', ')}` : ''}${web}`
}

const sorted = (list: readonly Credited[]): Credited[] =>
  [...list].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0))
const key = (a: Credited): string => `${a.origin?.author ?? ''}\n${a.name}`.toLowerCase()

/**
 * The same as CSV (RFC 4180): asset, author, source, terms, hand-over, link. A cell that a table would take for a
 * formula begins with an apostrophe.
 */
export function creditsCsv(assets: readonly Credited[]): string {
  const cell = (text: string): string => {
    const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text
    return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
  }
  const lines = [...assets]
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .map(({ name, origin, terms }) =>
      [
        name,
        origin?.author ?? '',
        origin?.source ?? '',
        terms?.title ?? '',
        terms?.handOver ?? '',
        origin?.link ?? '',
      ]
        .map(cell)
        .join(','),
    )
  return ['asset,author,source,terms,hand-over,link', ...lines].join('\r\n').concat('\r\n')
}
