import type { Detail, RemedyOptions } from '@stern-gate/contract'

/** Remedy that lays a detail map over a slot. */
export const DETAIL = 'slots/detail'

/** A detail map that nobody has set yet. */
export const firstDetail: Detail = { uv: 0, tiling: 8, colour: 1, normal: 1 }

/** The detail map of a slot after options that are tried: those that are not said stay; null: none. */
export function detailAfter(before: Detail | null, tried: Readonly<RemedyOptions>): Detail | null {
  if (Object.keys(tried).length === 0) return before
  const { texture, normalTexture, ...values } = tried
  if (texture === null && normalTexture === null) return null
  const own = Object.fromEntries(
    Object.entries(values).filter(([key, v]) => key in firstDetail && typeof v === 'number'),
  )
  return { ...firstDetail, ...before, ...own }
}
