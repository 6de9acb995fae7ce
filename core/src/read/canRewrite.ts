import type { TextureHeader } from '@stern-gate/contract'

/**
 * Whether texels can be changed and written as PNG: those of floating point would lose their range, those in
 * blocks were made from something better.
 */
export const canRewrite = ({
  decodes,
  depth,
  blockFormat,
}: Pick<TextureHeader, 'decodes' | 'depth' | 'blockFormat'>): boolean =>
  decodes && depth < 32 && blockFormat === null
