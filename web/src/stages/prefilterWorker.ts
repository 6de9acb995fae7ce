import { DataUtils } from 'three'
import { prefilterLight, type LightFrom } from '@stern-gate/core/surroundings'
import type { EnvironmentName } from './lightSettings'
import type { PictureAround } from './pictureAround'
import { skyLight } from './skyLight'

/** Levels for three's cube textures: half floats, four a texel, six faces one after the other. */
export interface LightLevels {
  size: number
  levels: Uint16Array[]
}

/** Edges of a face of the first level: skies change slowly, a picture may be sharp. */
const SKY_SIZE = 128,
  PICTURE_SIZE = 256

const port = self as unknown as {
  onmessage: (event: MessageEvent<EnvironmentName | PictureAround>) => void
  postMessage: (answer: LightLevels, moved: Transferable[]) => void
}

port.onmessage = ({ data }) => {
  const ofSky = typeof data === 'string'
  const light = mirrored(ofSky ? skyLight(data) : lightOfPicture(data))
  const { size, levels } = prefilterLight(light, ofSky ? SKY_SIZE : PICTURE_SIZE)
  const halves = levels.map(toHalves)
  port.postMessage(
    { size, levels: halves },
    halves.map((l) => l.buffer),
  )
}

/** three turns x around when it reads a cube texture that it did not draw itself. */
const mirrored =
  (from: LightFrom): LightFrom =>
  (x, y, z, out) =>
    from(-x, y, z, out)

function toHalves(light: Float32Array): Uint16Array {
  const halves = new Uint16Array((light.length / 3) * 4),
    one = DataUtils.toHalfFloat(1)
  for (let i = 0, at = 0; i < light.length; i += 3) {
    for (let c = 0; c < 3; c++) halves[at++] = DataUtils.toHalfFloat(Math.min(light[i + c]!, 65_504))
    halves[at++] = one
  }
  return halves
}

/** Its middle is the +X direction and its right half is toward +Z, as three places such pictures. */
function lightOfPicture(picture: PictureAround): LightFrom {
  const { data, width, height } = shrunken(picture)
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

/** Rows from the top, and no finer than the cube: a small sun between two samples would be lost. */
function shrunken({ data, width, height, fromFoot }: PictureAround): {
  data: Float32Array
  width: number
  height: number
} {
  const times = Math.max(1, Math.floor(width / (4 * PICTURE_SIZE)))
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
