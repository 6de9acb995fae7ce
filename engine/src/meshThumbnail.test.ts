import sharp from 'sharp'
import { expect, it } from 'vitest'
import { crateFiles, pixelsOf } from '@stern-gate/core/fixtures'
import { encodePng } from './imagePorts'
import { measureFile } from './measureFile'

it.each(['none', 'good'] as const)('a thumbnail wears the base colour, uvs: %s', async (uvs) => {
  const files = await crateFiles({ uvs })
  const [path, glb] = Object.entries(files).find(([p]) => p.endsWith('.glb'))!
  const red = await encodePng(pixelsOf(8, 8, 3, () => [200, 20, 20]))
  const { thumbnail } = await measureFile(path, glb as Uint8Array, {
    find: (p) => (/basecolor/.test(p) ? red : null),
    progress: () => undefined,
    thumbnail: true,
  })
  const { data, info } = await sharp(thumbnail!).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const middle = (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * 3
  expect(data[middle]).toBeGreaterThan(data[middle + 1]! * 3)
})
