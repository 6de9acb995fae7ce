import type { Rulebook } from '@stern-gate/contract'
import { isRecord } from '../rulebook/composeRulebook'
import { rules } from '../rules/index'

/** What differs from one rulebook to another, a line each, in words: where, and from what to what. */
export function rulebookDifferences(before: Rulebook, after: Rulebook): string[] {
  const lines: string[] = []
  walk(before, after, [], lines)
  return lines
}

function walk(before: unknown, after: unknown, path: readonly string[], lines: string[]): void {
  if (JSON.stringify(before) === JSON.stringify(after)) return
  if (isRecord(before) && isRecord(after)) {
    for (const key of new Set([...Object.keys(before), ...Object.keys(after)]))
      walk(before[key], after[key], [...path, key], lines)
    return
  }
  // A rule that had no setting gets several at once
  if ((before === undefined && isRecord(after)) || (after === undefined && isRecord(before))) {
    if (['classes', 'targets', 'surfaces'].includes(path[0]!))
      lines.push(`${placeWords(path)}: ${before === undefined ? 'new' : 'taken out'}`)
    else walk(before ?? {}, after ?? {}, path, lines)
    return
  }
  lines.push(`${placeWords(path)}: ${valueWords(before)} → ${valueWords(after)}`)
}

/** The title of a rule in place of its id, and the keys behind it. */
function placeWords([top, second, ...rest]: readonly string[]): string {
  if (top === 'rules' && second !== undefined) {
    const title = rules.find((r) => r.id === second)?.meta.title ?? second
    return [title, ...rest.filter((k) => k !== 'options')].join(' · ')
  }
  return [top, second, ...rest].filter((k) => k !== undefined).join(' · ')
}

function valueWords(value: unknown): string {
  if (value === undefined) return 'default'
  if (value === null) return 'none'
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(String).join(', ')
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}
