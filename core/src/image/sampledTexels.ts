import type { KernelRoom } from '../kernels/inKernels'
import type { Pixels } from './pixels'
import { sampleWindows, type Window } from './sampleWindows'

/** The texels that costly figures are taken from: windows one after the other, their rows side by side. */
export interface SampledTexels {
  windows: readonly Window[]
  texels: number
  bytes: Uint8Array
}

/** Bytes of a channel's value. */
export const valueBytes = (pixels: Pixels): 1 | 2 => (pixels.depth === 16 ? 2 : 1)

/** Gathers them once; a picture that is looked at whole is not copied. */
export function sampledTexels(pixels: Pixels): SampledTexels {
  const { width, height, channels, data } = pixels
  const windows = sampleWindows(width, height),
    texel = channels * valueBytes(pixels),
    row = width * texel
  const all = new Uint8Array(data.buffer, data.byteOffset, data.byteLength)
  if (windows.length === 1) return { windows, texels: width * height, bytes: all }
  const texels = windows.reduce((sum, w) => sum + w.width * w.height, 0),
    bytes = new Uint8Array(texels * texel)
  let at = 0
  for (const window of windows)
    for (let y = window.y; y < window.y + window.height; y++) {
      // Rows are short: a view of each would be more than its bytes
      const from = y * row + window.x * texel,
        length = window.width * texel
      for (let k = 0; k < length; k++) bytes[at + k] = all[from + k]!
      at += length
    }
  return { windows, texels, bytes }
}

/** Puts them into the kernels' memory and gives their place. */
export function holdTexels(room: KernelRoom, { bytes }: SampledTexels): number {
  const at = room.space(bytes.length)
  room.bytes(at, bytes.length).set(bytes)
  return at
}
