import type { CarriedSetting, RemedyOptions, SurfaceSetting } from '@stern-gate/contract'

/** What a target draws of one slot, where that differs from what the file says. */
export interface KeptSurface {
  /** By the names of the options of slots/surface. */
  values: RemedyOptions
  /** Films and grains of extensions that have no option. */
  without: ReadonlySet<SurfaceSetting>
}

/** What is drawn in the place of a setting that a target does not take. */
const drawnInstead: Partial<Record<SurfaceSetting, RemedyOptions>> = {
  'emissive strength': { strength: 1 },
  'refraction index': { ior: 1.5 },
  transmission: { transmission: 0 },
  thickness: { thickness: 0 },
  'specular level': { specular: 1, specularColour: '#ffffff' },
  'clear coat': { coat: 0 },
  scattering: { scatter: 0 },
  height: { heightDepth: 0 },
  'additive blending': { alpha: 'blend' },
  blending: { alpha: 'cutout', cutoff: 0.5 },
  'both sides': { twoSided: false },
}

/**
 * What a target keeps of a slot, from the lines of its carry-over; null where it keeps all. Inputs beyond the limit and
 * UV channels that it has not are not told here.
 */
export function keptSurface(lines: readonly CarriedSetting[], slot: string): KeptSurface | null {
  const lost = lines.filter((l) => l.slot === slot && l.fate !== 'kept').map((l) => l.setting)
  if (lost.length === 0) return null
  const settings = lost.filter((s): s is SurfaceSetting => s !== 'inputs' && s !== 'UV channel')
  // Blending comes last in the table: what is not blended at all cannot be added either
  const ordered = Object.keys(drawnInstead).filter((s) => settings.includes(s as SurfaceSetting))
  return {
    values: Object.assign({}, ...ordered.map((s) => drawnInstead[s as SurfaceSetting])) as RemedyOptions,
    without: new Set(settings),
  }
}
