import type { Primitive } from '@gltf-transform/core'
import { generateTangents as mikktspace } from 'three/examples/jsm/libs/mikktspace.module.js'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { visitInside } from '../../geometry/sheetTexels'
import { toTangentSpace, type SurfaceFrames } from '../../image/tangentSpace'
import { formatShare } from '../../numbers/formatNumber'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { channelOf, placementOf } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { spread } from '../meshWork'
import { openTexture, rewritePixels } from '../textureSteps'
import type { Work, WorkTexture } from '../work'

/** Vectors that agree less with the surface than this, as a mean cosine, were baked on another mesh. */
const LEAST_AGREEMENT = 0.6

export const objectToTangent = defineRemedy({
  id: 'colour/object-to-tangent',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Bring a normal map to tangent space',
  words: () => 'Object → tangent space',
  about:
    'Turns the vectors of a normal map in object space into those of tangent space, by the normals, tangents and UVs ' +
    'of the mesh that wears it (MikkTSpace where the file has no tangents). Which channel is which axis is told by what ' +
    'agrees best with the normals. Beyond the islands the map goes on for sixteen texels.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    green: z.enum(['up', 'down']).default('up').describe('which way green is to point'),
  }),
  async apply(work, { texture: name, green }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.channels < 3) return good({ changed: false, said: `${name} has no vectors` })
    const frames = framesOf(work, texture, header.width, header.height)
    if (!frames)
      return bad(
        'remedy/not-applicable',
        `No mesh with normals and UVs wears ${name} as a normal map, unmoved.`,
        'Pair it with the slot of its mesh first.',
        { part: name },
      )
    let made: ReturnType<typeof toTangentSpace> = null
    const rewritten = await rewritePixels(texture, ports, (pixels) => {
      made = toTangentSpace(pixels, frames, green)
      return made && made.agreement >= LEAST_AGREEMENT ? made.pixels : null
    })
    if (!rewritten.ok) return rewritten
    const done = made as ReturnType<typeof toTangentSpace>
    if (!rewritten.value)
      return bad(
        'remedy/not-applicable',
        `Its vectors agree with the mesh by ${formatShare(done?.agreement ?? 0)} only, whichever way the axes lie.`,
        'It was baked on another mesh, or is no map in object space.',
        { part: name },
      )
    return good({
      changed: true,
      said: `${texture.name} is in tangent space (red, green, blue were ${done!.axes})`,
    })
  },
})

/** The surface under each texel of a map; null where no mesh wears it as its normal map. */
function framesOf(
  { document }: Work,
  { pictures }: WorkTexture,
  width: number,
  height: number,
): SurfaceFrames | null {
  const frames: SurfaceFrames = {
    used: new Uint8Array(width * height),
    normals: new Float32Array(width * height * 3),
    tangents: new Float32Array(width * height * 4),
  }
  let found = false
  for (const mesh of document?.getRoot().listMeshes() ?? [])
    for (const primitive of mesh.listPrimitives()) {
      const slot = primitive.getMaterial(),
        map = slot?.getNormalTexture(),
        info = slot?.getNormalTextureInfo()
      if (!map || !info || !pictures.includes(map) || placementOf(info) !== null) continue
      if (addFrames(frames, primitive, channelOf(info), [width, height])) found = true
    }
  return found ? frames : null
}

function addFrames(
  { used, normals, tangents }: SurfaceFrames,
  primitive: Primitive,
  channel: number,
  size: readonly [number, number],
): boolean {
  const { positions, indices, uvs } = primitiveView(primitive),
    uv = uvs[channel],
    normal = primitive.getAttribute('NORMAL')
  if (!uv || !normal) return false
  const corners = {
    uv: spread(uv, 2, indices),
    normals: spread(floatsOf(normal), 3, indices),
    tangents: tangentsOf(primitive, positions, indices, uv),
  }
  const order = Uint32Array.from({ length: indices.length }, (_, k) => k)
  visitInside(corners.uv, order, size, (texel, k, [a, b, c]) => {
    const mixed = (values: Float32Array, of: number, i: number): number =>
      a * values[k * of + i]! + b * values[(k + 1) * of + i]! + c * values[(k + 2) * of + i]!
    const n = [0, 1, 2].map((i) => mixed(corners.normals, 3, i)),
      t = [0, 1, 2].map((i) => mixed(corners.tangents, 4, i))
    const long = Math.hypot(...n)
    if (!(long > 1e-6)) return
    for (let i = 0; i < 3; i++) normals[texel * 3 + i] = n[i]! / long
    const along = t.reduce((sum, v, i) => sum + v * normals[texel * 3 + i]!, 0)
    const flat = t.map((v, i) => v - along * normals[texel * 3 + i]!),
      wide = Math.hypot(...flat)
    if (!(wide > 1e-6)) return
    used[texel] = 1
    for (let i = 0; i < 3; i++) tangents[texel * 4 + i] = flat[i]! / wide
    tangents[texel * 4 + 3] = corners.tangents[k * 4 + 3]! < 0 ? -1 : 1
  })
  return true
}

/** Tangents of each corner: those of the file, else MikkTSpace’s. */
function tangentsOf(
  primitive: Primitive,
  positions: Float32Array,
  indices: Uint32Array,
  uv: Float32Array,
): Float32Array {
  const own = primitive.getAttribute('TANGENT')
  if (own) return spread(floatsOf(own), 4, indices)
  const made = mikktspace(
    spread(positions, 3, indices),
    spread(floatsOf(primitive.getAttribute('NORMAL')!), 3, indices),
    spread(uv, 2, indices),
  )
  // MikkTSpace takes v upward; glTF has it downward, which turns the sign
  for (let k = 3; k < made.length; k += 4) made[k] = -made[k]!
  return made
}
