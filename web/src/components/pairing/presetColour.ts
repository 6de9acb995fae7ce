import { presetOf } from '@stern-gate/core/pairing'

/** The base colour of a surface of values as CSS writes it; grey where there is no such surface. */
export function presetColour(name: string): string {
  const [r, g, b] = presetOf(name)?.baseColour ?? [0.18, 0.18, 0.18]
  return `color(srgb-linear ${r} ${g} ${b})`
}
