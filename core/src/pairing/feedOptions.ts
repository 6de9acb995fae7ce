import { textureRoles, type PairingCell, type RemedyOptions, type TextureRole } from '@stern-gate/contract'

/**
 * Options of the step that gives a slot the textures of these cells, by the name that each has in the asset: one
 * step a slot. Cells that are open or fed already say nothing.
 */
export function feedOptions(
  slot: string,
  cells: readonly Pick<PairingCell, 'input' | 'layout' | 'inverted'>[],
  nameOf: (input: TextureRole) => string | null,
): RemedyOptions {
  const options: RemedyOptions = { slot }
  for (const input of textureRoles) {
    const cell = cells.find((c) => c.input === input),
      name = cell ? nameOf(input) : null
    if (!cell || name === null) continue
    options[input] = name
    // Said each time, so that how an earlier map was read does not stay
    if (input === 'orm') options['layout'] = cell.layout ?? 'orm'
    if (input === 'roughness') options['gloss'] = cell.inverted
  }
  return options
}
