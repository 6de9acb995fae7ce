import { isResizedForTarget, sizeAtTarget } from '../subject/targetSizes'
import type { Subject, SubjectTexture } from '../subject/subject'

/** What rules of sizes say of a texture that the target's pass brings to another one. */
export const madeMessage = {
  level: 'note',
  text: '{width} × {height} texels; as it goes out to the {target} target it becomes {toWidth} × {toHeight}.',
} as const

/**
 * What a rule of sizes says where the target's pass brings a texture to another size: that it does, and nothing is held
 * for it. Null where the pass leaves the texture as it is.
 */
export function madeForTarget(subject: Subject, texture: SubjectTexture) {
  if (!texture.facts || !isResizedForTarget(subject, texture)) return null
  const { width, height } = texture.facts.header,
    to = sizeAtTarget(subject, texture)!
  return {
    message: 'made' as const,
    data: {
      ...{ width, height, toWidth: to.width, toHeight: to.height },
      target: subject.target.title.toLowerCase(),
    },
    place: { kind: 'texture' as const, texture: texture.name },
  }
}
