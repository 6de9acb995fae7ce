import { DataUtils } from 'three'
import type { LightFrom } from '@stern-gate/core/surroundings'

/** A picture that goes all around: half floats, four a pixel; rows from the top, or from the foot. */
export interface PictureAround {
  data: Uint16Array
  width: number
  height: number
  fromFoot: boolean
}

/**
 * The light of a picture that goes all around: its middle is the +X direction and its right half toward +Z, as three
 * places such pictures. It is brought to `most` texels across at the most.
 */
export function lightOfPicture(picture: PictureAround, most: number): LightFrom {
  const { data, width, height } = shrunken(picture, most)
  return (x, y, z, out) => {
    const across = (Math.atan2(z, x) / (2 * Math.PI) + 0.5) * width - 0.5,
      down = (0.5 - Math.asin(Math.min(1, Math.max(-1, y))) / Math.PI) * height - 0.5
    const left = Math.floor(across),
      top = Math.floor(down)
    out.fill(0)
    for (let part = 0; part < 4; part++) {
      const px = left + (part & 1),
        py = top + (part >> 1)
      const share = (1 - Math.abs(across - px)) * (1 - Math.abs(down - py))
      const at = (Math.min(height - 1, Math.max(0, py)) * width + (((px % width) + width) % width)) * 3
      for (let c = 0; c < 3; c++) out[c]! += data[at + c]! * share
    }
  }
}

/** Rows from the top, and no finer than what samples it: a small sun between two samples would be lost. */
function shrunken(
  { data, width, height, fromFoot }: PictureAround,
  most: number,
): {
  data: Float32Array
  width: number
  height: number
} {
  const times = Math.max(1, Math.ceil(width / most))
  const across = Math.max(1, Math.floor(width / times)),
    down = Math.max(1, Math.floor(height / times))
  const small = new Float32Array(across * down * 3)
  for (let y = 0; y < down * times; y++) {
    const row = fromFoot ? height - 1 - y : y
    for (let x = 0; x < across * times; x++) {
      const from = (row * width + x) * 4,
        to = (Math.floor(y / times) * across + Math.floor(x / times)) * 3
      for (let c = 0; c < 3; c++) small[to + c]! += DataUtils.fromHalfFloat(data[from + c]!)
    }
  }
  for (let i = 0; i < small.length; i++) small[i]! /= times * times
  return { data: small, width: across, height: down }
}
