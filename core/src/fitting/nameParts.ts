/** Between words where no sign stands: a capital, or a figure after letters. */
export const NO_SEPARATOR = ''

/** Words of a name between separators; without one it is taken apart at capitals and figures. */
export const splitName = (name: string, separator: string): string[] =>
  separator === NO_SEPARATOR
    ? (name.match(/[A-Z]?[a-z]+|[A-Z]+(?![a-z])|\d+|[^A-Za-z\d]+/g) ?? [name])
    : name.split(separator)

/** The sign that stands in most names between letters or figures; none where hardly any name has one. */
export function commonSeparator(names: readonly string[]): string {
  const counts = new Map<string, number>()
  for (const name of names)
    for (const sign of new Set(name.match(/(?<=[A-Za-z0-9])[^A-Za-z0-9](?=[A-Za-z0-9])/g) ?? []))
      counts.set(sign, (counts.get(sign) ?? 0) + 1)
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
  return best && best[1] >= names.length * LEAST_SEPARATED ? best[0] : NO_SEPARATOR
}

/** In fewer names a sign separates nothing. */
const LEAST_SEPARATED = 0.3

/** How often each value occurs, the commonest first; equal ones by the alphabet. */
export function counted(values: Iterable<string>): [value: string, count: number][] {
  const counts = new Map<string, number>()
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
}
