import sharp from 'sharp'
import { measureTexture, readTextureHeader } from '@stern-gate/core'
import { pixelsOf } from '@stern-gate/core/fixtures'
import { decodeImage, encodePng } from '@stern-gate/engine'
import { inPairs } from './clock'
import type { Figure } from './figure'

/** Checking a texture against decoding it and nothing else. */
export async function textureFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('4096² PNG')
  const png = await encodePng(
    pixelsOf(4096, 4096, 3, (x, y) =>
      [128 + 40 * Math.sin(x / 9), 128 + 40 * Math.sin(y / 7), 240 + ((x * 31 + y * 17) % 7)].map(Math.round),
    ),
  )
  const check = async (): Promise<unknown> => {
    const header = readTextureHeader(png)
    if (!header.ok) throw new Error(header.fault.why)
    return measureTexture(header.value, await decodeImage(png, header.value))
  }
  const [ours, decoding] = await inPairs(25, check, () => sharp(png).raw().toBuffer())
  return [
    {
      what: 'PNG of 4096² texels: header, decoding and all measures, against decoding with sharp alone',
      measured: `${ours.toFixed(0)} ms against ${decoding.toFixed(0)} ms`,
      ratio: ours / decoding,
      wanted: { most: 1.5 },
    },
  ]
}
