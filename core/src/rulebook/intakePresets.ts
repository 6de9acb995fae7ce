import type { Intake, IntakePreset, Rulebook } from '@stern-gate/contract'

/** The intake presets of a rulebook, by name. */
export const intakePresets = ({ intake }: Pick<Rulebook, 'intake'>): IntakePreset[] =>
  Object.entries(intake)
    .map(([name, way]) => ({ ...way, name }))
    .sort((a, b) => (a.name < b.name ? -1 : 1))

/** What a delivery carries of the preset that it is taken in by. */
export const intakeBy = ({ name, options, mend, apart, absent }: IntakePreset): Intake => ({
  name,
  options,
  mend,
  apart,
  absent,
})

/** The preset whose folder or generator fits what came; of several the one that fits most narrowly. */
export function suggestedPreset(
  presets: readonly IntakePreset[],
  paths: readonly string[],
  generators: readonly string[],
): IntakePreset | null {
  const has = (list: readonly string[], part: string): boolean =>
    part !== '' && list.some((text) => text.toLowerCase().includes(part.toLowerCase()))
  const folders = paths.map((p) => `/${p.split('/').slice(0, -1).join('/')}/`)
  const fit = (p: IntakePreset): number =>
    Math.max(
      has(folders, p.folder) ? p.folder.length : 0,
      has(generators, p.generator) ? p.generator.length : 0,
    )
  return presets.filter((p) => fit(p) > 0).sort((a, b) => fit(b) - fit(a))[0] ?? null
}
