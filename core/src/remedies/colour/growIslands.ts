import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { visitTexels } from '../../geometry/sheetTexels'
import { growIslands as grow } from '../../image/growIslands'
import { formatCount } from '../../numbers/formatNumber'
import { primitiveView } from '../../scene/primitiveView'
import { inputTextures } from '../../scene/slotInputs'
import { channelOf, placementOf } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'
import type { Work, WorkTexture } from '../work'

export const growIslands = defineRemedy({
  id: 'colour/grow-islands',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Grow islands outward',
  words: ({ texels }) => `Grow islands by ${texels} texels`,
  about:
    'Continues the colour of each UV island over the flat ground around it, so that smaller mip levels do not mix ' +
    'the ground in. Texels that the mesh uses, texels that are no ground, and alpha stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    texels: z.int().min(1).max(256).default(8).describe('how far'),
  }),
  async apply(work, { texture: name, texels }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    const islands = usedTexels(work, texture, header.width, header.height)
    if (islands === 'none')
      return bad(
        'remedy/not-applicable',
        `No slot lays ${name} on a UV channel as it is.`,
        'Choose a texture that the mesh uses.',
        { part: name },
      )
    if (islands === 'all') return good({ changed: false, said: `all of ${name} is used` })
    let grown = 0
    const rewritten = await rewritePixels(texture, ports, (pixels) => {
      const done = grow(pixels, islands, texels)
      grown = done?.texels ?? 0
      return done && done.texels > 0 ? done.pixels : null
    })
    if (!rewritten.ok) return rewritten
    return good({
      changed: rewritten.value,
      said: rewritten.value
        ? `${formatCount(grown)} texels of ${texture.name} continue its islands`
        : `no ground lies beside the islands of ${texture.name}`,
    })
  },
})

/** 1 for each texel that the mesh uses of a texture: on every slot that it feeds without being moved. */
function usedTexels(
  { document }: Work,
  { pictures }: WorkTexture,
  width: number,
  height: number,
): Uint8Array | 'none' | 'all' {
  const mask = new Uint8Array(width * height)
  let found = false
  for (const mesh of document?.getRoot().listMeshes() ?? [])
    for (const primitive of mesh.listPrimitives()) {
      const slot = primitive.getMaterial()
      if (!slot) continue
      for (const { texture, info } of inputTextures(slot)) {
        if (!pictures.includes(texture)) continue
        const { uvs, indices } = primitiveView(primitive),
          uv = uvs[channelOf(info)]
        if (placementOf(info) !== null) return 'none'
        if (!uv) continue
        found = true
        if (!visitTexels(uv, indices, [width, height], (texel) => void (mask[texel] = 1))) return 'all'
      }
    }
  return found ? mask : 'none'
}
