import { blockFormats, type BlockFormatName, type TextureHeader } from '@stern-gate/contract'

/** Bytes of a texture in a block format: whole blocks on every level, down to one texel or of the largest alone. */
export function textureMemory(
  { width, height }: Pick<TextureHeader, 'width' | 'height'>,
  format: BlockFormatName,
  mips = true,
): number {
  const block = blockFormats[format]
  let bytes = 0
  for (let w = width, h = height; ; w = Math.max(1, w >> 1), h = Math.max(1, h >> 1)) {
    bytes += Math.ceil(w / block.width) * Math.ceil(h / block.height) * block.bytes
    if (!mips || (w === 1 && h === 1)) return bytes
  }
}
