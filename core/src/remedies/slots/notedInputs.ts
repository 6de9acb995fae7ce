import { good, type Outcome } from '@stern-gate/contract'
import { pictureOf } from '../madeTextures'
import type { RemedyPorts } from '../defineRemedy'
import { textureOf } from '../textureSteps'
import type { Work } from '../work'

/**
 * The noted inputs of a slot with textures given to some of them, or taken away where none is named. Faults: those of
 * a texture that is not there or cannot be put into the file.
 */
export async function inputsWith(
  work: Work,
  before: Readonly<Record<string, string>> | undefined,
  given: readonly (readonly [input: string, texture: string | null])[],
  ports: RemedyPorts,
): Promise<Outcome<Record<string, string> | undefined>> {
  const inputs = { ...before }
  for (const [input, name] of given) {
    if (name === null) {
      delete inputs[input]
      continue
    }
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const picture = await pictureOf(work, texture.value, ports)
    if (!picture.ok) return picture
    inputs[input] = texture.value.name
  }
  return good(before || Object.keys(inputs).length > 0 ? inputs : undefined)
}
