import { DataUtils } from 'three'
import { prefilterLight, type LightFrom } from '@stern-gate/core/surroundings'
import type { EnvironmentName } from './lightSettings'
import { lightOfPicture, type PictureAround } from './pictureAround'
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
  const light = mirrored(ofSky ? skyLight(data) : lightOfPicture(data, 4 * PICTURE_SIZE))
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
