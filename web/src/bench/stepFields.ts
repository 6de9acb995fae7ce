import type { AssetState, RemedyField, RemedyInfo, RemedyOptions } from '@stern-gate/contract'

/** Things of the asset that a field may name; empty for fields that a person types into. */
export function thingsOf(kind: RemedyField['kind'], state: AssetState): readonly string[] {
  switch (kind) {
    case 'node':
      return (state.mesh?.nodes ?? []).map((n) => n.path)
    case 'slot':
      return (state.mesh?.slots ?? []).map((s) => s.name)
    case 'texture':
      return state.textures.map((t) => t.name)
    case 'clip':
      return (state.mesh?.file.clips ?? []).map((c) => c.name)
    case 'missing':
      return state.references.filter((r) => r.resolved === null).map((r) => r.asked)
    default:
      return []
  }
}

/** Options to begin with: the defaults, and where there is none the first thing or choice. */
export function firstOptions(remedy: RemedyInfo, state: AssetState): RemedyOptions {
  return Object.fromEntries(
    remedy.fields.flatMap((f) => {
      const value =
        f.default ?? (f.default === undefined ? (f.choices?.[0] ?? thingsOf(f.kind, state)[0]) : null)
      return value === undefined ? [] : [[f.name, value]]
    }),
  )
}

/** The first field that still wants a value, in words; null when all have one. */
export function missingField(remedy: RemedyInfo, options: RemedyOptions): string | null {
  const field = remedy.fields.find(
    (f) =>
      !f.optional && (options[f.name] === undefined || options[f.name] === '' || options[f.name] === null),
  )
  return field ? fieldLabel(field).toLowerCase() : null
}

/** What leaving a field empty means, as its description says it. */
export const emptyWord = (field: RemedyField): string =>
  /; null: (.*)$/.exec(field.about)?.[1] ?? 'nothing said'

/** What a field is for, without the word for leaving it empty. */
export const fieldAbout = (field: RemedyField): string => field.about.replace(/; null: .*$/, '')

/** The name of a field as a word. */
export const fieldLabel = (field: RemedyField): string => field.name[0]!.toUpperCase() + field.name.slice(1)
