import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { cornerTangents } from '../../geometry/cornerTangents'
import { visitInside } from '../../geometry/sheetTexels'
import {
  toTangentSpace,
  type InTangentSpace,
  type SurfaceFrame,
  type VisitFrames,
} from '../../image/tangentSpace'
import { formatShare } from '../../numbers/formatNumber'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { channelOf, placementOf } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { spread } from '../meshWork'
import { openTexture, rewritePixels } from '../textureSteps'
import type { Work, WorkTexture } from '../work'

/** Vectors that agree less with the surface than this, as a mean cosine, were baked on another mesh. */
const LEAST_AGREEMENT = 0.6
/** A map whose vectors point out of the sheet nearly as much as they agree with the surface is in tangent space. */
const NEARLY = 0.05
const isInTangentSpace = ({ outward, agreement }: InTangentSpace): boolean => outward >= agreement - NEARLY

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
    const frames = framesOf(work, texture, [header.width, header.height])
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
      return made && made.agreement >= LEAST_AGREEMENT && !isInTangentSpace(made) ? made.pixels : null
    })
    if (!rewritten.ok) return rewritten
    const done = made as ReturnType<typeof toTangentSpace>
    if (done && isInTangentSpace(done))
      return good({ changed: false, said: `${name} is in tangent space already` })
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

/** The surface under the texels of a map; null where no mesh wears it as its normal map. */
function framesOf(
  { document }: Work,
  { pictures }: WorkTexture,
  size: readonly [number, number],
): VisitFrames | null {
  const primitives = (document?.getRoot().listMeshes() ?? []).flatMap((mesh) =>
    mesh.listPrimitives().flatMap((primitive) => {
      const slot = primitive.getMaterial(),
        map = slot?.getNormalTexture(),
        info = slot?.getNormalTextureInfo()
      if (!map || !info || !pictures.includes(map) || placementOf(info) !== null) return []
      return cornersOf(primitive, channelOf(info)) ?? []
    }),
  )
  return primitives.length === 0
    ? null
    : (visit) => {
        for (const corners of primitives) visitCorners(corners, size, visit)
      }
}

/** UVs, normals and tangents of each corner of each triangle. */
interface Corners {
  uv: Float32Array
  normals: Float32Array
  tangents: Float32Array
}

/** Tangents are those of the file, else MikkTSpace’s; null without normals or UVs. */
function cornersOf(primitive: Primitive, channel: number): Corners | null {
  const { positions, indices, uvs } = primitiveView(primitive),
    of = uvs[channel],
    normal = primitive.getAttribute('NORMAL'),
    tangent = primitive.getAttribute('TANGENT')
  if (!of || !normal) return null
  const uv = spread(of, 2, indices),
    normals = spread(floatsOf(normal), 3, indices)
  const tangents = tangent
    ? spread(floatsOf(tangent), 4, indices)
    : cornerTangents(spread(positions, 3, indices), normals, uv)
  return { uv, normals, tangents }
}

function visitCorners(
  { uv, normals, tangents }: Corners,
  size: readonly [number, number],
  visit: (texel: number, frame: SurfaceFrame) => void,
): void {
  const frame: SurfaceFrame = { normal: [0, 0, 1], tangent: [1, 0, 0], sign: 1 },
    { normal: n, tangent: t } = frame
  const order = Uint32Array.from({ length: uv.length / 2 }, (_, k) => k)
  visitInside(uv, order, size, (texel, k, [a, b, c]) => {
    for (let i = 0; i < 3; i++) {
      n[i] = a * normals[k * 3 + i]! + b * normals[k * 3 + 3 + i]! + c * normals[k * 3 + 6 + i]!
      t[i] = a * tangents[k * 4 + i]! + b * tangents[k * 4 + 4 + i]! + c * tangents[k * 4 + 8 + i]!
    }
    if (!makeUnit(n)) return
    const along = t[0] * n[0] + t[1] * n[1] + t[2] * n[2]
    for (let i = 0; i < 3; i++) t[i]! -= along * n[i]!
    if (!makeUnit(t)) return
    frame.sign = tangents[k * 4 + 3]! < 0 ? -1 : 1
    visit(texel, frame)
  })
}

/** Edits in place; false for a vector without length. */
function makeUnit(v: [number, number, number]): boolean {
  const length = Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2])
  if (!(length > 1e-6)) return false
  for (let i = 0; i < 3; i++) v[i]! /= length
  return true
}
