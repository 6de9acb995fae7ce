import { blockFormats, type BlockFormatName, type Target, type TextureRole } from '@stern-gate/contract'
import { textureMemory } from '../image/textureMemory'
import { canRewrite } from '../read/canRewrite'
import type { Subject, SubjectTexture } from './subject'

/** Texels across and down. */
export interface TextureSize {
  width: number
  height: number
}

/** The block format in which a target stores a texture of this role. */
export const formatAt = ({ formats }: Target, role: TextureRole | null): BlockFormatName =>
  formats[role ?? 'basecolor']

/**
 * The size that a target takes, nearest to a texture's own: no side above the limit, both scaled alike; powers of two
 * where it wants them, else whole blocks of 4 where the format has such. Neither goes above the limit.
 */
export function sizeThatFits(
  { width, height }: TextureSize,
  { size, limit, block }: { size: Target['size']; limit: number; block: number },
): TextureSize {
  const scale = Math.min(1, limit / Math.max(width, height)),
    whole = block === 4 ? 4 : 1
  const fit = (side: number): number => {
    const scaled = side * scale
    if (size === 'power-of-two') {
      const most = 2 ** Math.floor(Math.log2(limit))
      return Math.min(most, Math.max(whole, 2 ** Math.round(Math.log2(scaled))))
    }
    const most = Math.max(1, Math.floor(limit / whole))
    return whole * Math.max(1, Math.min(most, Math.round(scaled / whole)))
  }
  return { width: fit(width), height: fit(height) }
}

/** Texels that a side may have at the target, by the rulebook's factor for this class of things. */
export function sideLimit({ target, rulebook }: Pick<Subject, 'target' | 'rulebook'>): number {
  const factor = rulebook.rules['compression/largest-side']?.options?.['factor']
  return Math.floor(target.largestSide * (typeof factor === 'number' ? factor : 1))
}

/**
 * The size in which a texture goes out to the target of its asset: its own, but where the target has sizes made and the
 * texture can be written anew. Null for what was not read.
 */
export function sizeAtTarget(
  subject: Pick<Subject, 'target' | 'rulebook'>,
  { facts, role }: Pick<SubjectTexture, 'facts' | 'role'>,
): TextureSize | null {
  if (!facts) return null
  const { width, height } = facts.header,
    { target } = subject
  if (!target.makesSizes || !canRewrite(facts.header)) return { width, height }
  return sizeThatFits(facts.header, {
    size: target.size,
    limit: sideLimit(subject),
    block: blockFormats[formatAt(target, role)].width,
  })
}

/** Whether the target's pass brings a texture to another size. */
export function isResizedForTarget(
  subject: Pick<Subject, 'target' | 'rulebook'>,
  texture: Pick<SubjectTexture, 'facts' | 'role'>,
): boolean {
  const size = sizeAtTarget(subject, texture)
  if (!size || !texture.facts) return false
  return size.width !== texture.facts.header.width || size.height !== texture.facts.header.height
}

/** Bytes of a texture in graphics memory as the target stores it; 0 for what was not read. */
export function memoryAtTarget(
  subject: Pick<Subject, 'target' | 'rulebook'>,
  texture: Pick<SubjectTexture, 'facts' | 'role'>,
): number {
  const size = sizeAtTarget(subject, texture)
  return size ? textureMemory(size, formatAt(subject.target, texture.role)) : 0
}
