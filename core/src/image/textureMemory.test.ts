import { expect, it } from 'vitest'
import { textureMemory } from './textureMemory'

it('a texture takes whole blocks on every level, down to one texel', () => {
  // 8 × 8: 4 blocks, 1, 1, 1, of 8 bytes
  expect(textureMemory({ width: 8, height: 8 }, 'BC1')).toBe(7 * 8)
  // 5 × 5 takes 2 × 2 blocks; then 2 × 2 and 1 × 1 take one each
  expect(textureMemory({ width: 5, height: 5 }, 'BC1')).toBe((4 + 1 + 1) * 8)
  // 6 × 1: 2 blocks, then 3 × 1 and 1 × 1
  expect(textureMemory({ width: 6, height: 1 }, 'BC7')).toBe((2 + 1 + 1) * 16)
  // Blocks of 5 × 5 texels: 11 × 5 takes 3, 5 × 2 takes 1, 2 × 1 and 1 × 1 one each
  expect(textureMemory({ width: 11, height: 5 }, 'ASTC 5×5')).toBe((3 + 1 + 1 + 1) * 16)
  // The largest level alone
  expect(textureMemory({ width: 8, height: 8 }, 'BC1', false)).toBe(4 * 8)
  // Without blocks: 4 + 1 texels of four bytes
  expect(textureMemory({ width: 2, height: 2 }, 'plain')).toBe((4 + 1) * 4)
})
