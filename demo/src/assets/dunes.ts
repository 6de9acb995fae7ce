import { visitTexels } from '@stern-gate/core'
import { bevelBox } from '../shape/bevelBox'
import { joinPieces, placed, turnedY, type Piece, type Vec3 } from '../shape/piece'
import { loft } from '../shape/sweep'
import { cloudNoise } from '../surface/noise'
import type { Rgb, Surface } from '../surface/paint'
import { paintedIron } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

const SIZE = 512
/** Its own UVs are those of its sheet, turned round so that nothing is mirrored. */
const laidOut = (piece: Piece): Piece => ({
  ...piece,
  uvs: piece.sheet.map((v, k) => (k % 2 === 0 ? 1 - v : v)),
})
const block = (): Piece => laidOut(placed(bevelBox([0.4, 0.4, 0.4], 0.02, 1), [0, 0.2, 0]))

/** The colour ends where the islands end; beside them the sheet is black. */
function onlyOnIslands(surface: Surface, { uvs, indices }: Piece): Surface {
  const used = new Uint8Array(SIZE * SIZE)
  visitTexels(Float32Array.from(uvs), indices, [SIZE, SIZE], (texel) => void (used[texel] = 1))
  return (u, v) => {
    const point = surface(u, v)
    return used[Math.floor(v * SIZE) * SIZE + Math.floor(u * SIZE)] ? point : { ...point, colour: [0, 0, 0] }
  }
}

/** A mooring weight whose base colour ends at its islands: black lies right beside them. */
export const sinker: AssetPlan = {
  name: 'harbour_sinker_a',
  folder: 'props',
  delivery: 2,
  surfaces: {
    harbour_sinker: { surface: onlyOnIslands(paintedIron(211, [150, 96, 52]), block()), size: SIZE },
  },
  mesh: () => ({
    slots: [{ name: 'sinker-stone', textures: { stem: 'harbour_sinker' } }],
    parts: [
      { name: 'harbour_sinker_a', surface: { 'sinker-stone': block() }, uvChannels: 1, untidy: true },
      {
        name: 'harbour_sinker_a_hull',
        surface: withoutSlot(placed(bevelBox([0.4, 0.4, 0.4], 0.02, 1), [0, 0.2, 0])),
        uvChannels: 0,
      },
    ],
  }),
}

/** Blades of grass that rise from the foot of the sheet, each bent a little; clear between them. */
function marramBlades(): Surface {
  const shade = cloudNoise(401, 6, 3)
  const blades = Array.from({ length: 17 }, (_, i) => ({
    foot: 0.12 + (i / 16) * 0.76,
    lean: (((i * 7) % 11) / 11 - 0.5) * 0.34,
    top: 0.06 + ((i * 5) % 9) * 0.05,
    width: 0.016 + ((i * 3) % 5) * 0.003,
  }))
  return (u, v) => {
    // v goes down: 1 is the foot
    const up = 1 - v
    const on = blades.some(({ foot, lean, top, width }) => {
      const along = up / (1 - top)
      return along <= 1 && Math.abs(u - foot - lean * along * along) < width * (1 - along * 0.85)
    })
    const light = 0.7 + 0.5 * up + 0.3 * (shade(u, v) - 0.5)
    const colour = [112, 128, 66].map((c) => Math.min(255, Math.max(0, c * light))) as Rgb
    return { height: 0, colour, roughness: 0.85, metallic: 0, occlusion: 0.5 + 0.5 * up, alpha: on ? 1 : 0 }
  }
}

/** A card that leans outward a little, from its foot on the ground. */
function card(turn: number, lean: number): Piece {
  const rows = 5,
    across = 4
  const flat = loft(
    Array.from({ length: across + 1 }, (_, i) =>
      Array.from({ length: rows + 1 }, (_, j) => {
        const up = 1 - j / rows
        return [(i / across - 0.5) * 0.8, up * 0.7, lean * up * up] satisfies Vec3
      }),
    ),
    [1, 1],
  )
  return placed(flat, [0, 0, 0], turnedY(turn))
}

/** A tuft of dune grass without a chain of levels, and drawn however far away. */
export const marram: AssetPlan = {
  name: 'dune_marram_a',
  folder: 'foliage',
  delivery: 2,
  surfaces: {
    dune_marram: { surface: marramBlades(), size: 256, options: { alpha: true } },
  },
  leaveOut: { dune_marram: ['normal', 'orm'] },
  mesh: () => ({
    slots: [
      {
        name: 'marram-blades',
        textures: { stem: 'dune_marram', files: { normal: null, orm: null } },
        alpha: 'MASK',
        doubleSided: true,
        roughness: 0.85,
        metallic: 0,
      },
    ],
    parts: [
      {
        name: 'dune_marram_a',
        surface: {
          'marram-blades': joinPieces(
            Array.from({ length: 7 }, (_, i) => card((i / 7) * Math.PI, 0.04 + (i % 3) * 0.07)),
          ),
        },
        uvChannels: 1,
        untidy: true,
      },
    ],
  }),
}
