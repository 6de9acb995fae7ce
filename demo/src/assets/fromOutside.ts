import { bevelBox } from '../shape/bevelBox'
import { lathe, type Profile } from '../shape/lathe'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import { channelOf, oneChannel, tinted } from '../surface/spoiledTextures'
import { paint, type PaintedSet, type Surface } from '../surface/paint'
import { bareMetal, castStone, paintedIron, planks, signalCloth } from '../surface/surfaces'
import { buildMesh, type SlotPlan } from './buildMesh'

/** A mesh whose slots have names and no textures. */
interface BareMesh {
  name: string
  slots: Record<string, () => Piece>
}

const SIDE = 128

/** A body that was turned: corners from the base up, as radius and height in metres. */
const turned = (
  corners: readonly (readonly [number, number])[],
  repeat: [number, number] = [3, 1],
): Piece => {
  const profile: Profile = corners
    .slice(1)
    .map((to, i): [number, number][] => [[...corners[i]!] as [number, number], [...to] as [number, number]])
  return lathe(profile, 28, repeat)
}
const box = (size: Vec3, at: Vec3): Piece => placed(bevelBox(size, 0.012, 1), at)
const ring = (r: number, y: number, thick: number): Piece =>
  tube(
    Array.from({ length: 24 }, (_, i): Vec3 => {
      const a = (i / 24) * Math.PI * 2
      return [Math.cos(a) * r, y, Math.sin(a) * r]
    }),
    thick,
    8,
    true,
  )
const blade = (turn: number): Piece => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  return tube(
    Array.from({ length: 7 }, (_, i): Vec3 => {
      const y = i * 0.16,
        out = 0.06 + 0.05 * i * i * 0.2
      return [c * out, y, s * out]
    }),
    0.018,
    5,
  )
}

const meshes: readonly BareMesh[] = [
  {
    name: 'harbour_capstan_a',
    slots: {
      'capstan-iron': () =>
        joinPieces([
          turned([
            [0, 0],
            [0.42, 0],
            [0.42, 0.1],
            [0.2, 0.24],
            [0.2, 0.6],
            [0.28, 0.7],
          ]),
        ]),
      'capstan-oak': () =>
        turned([
          [0.28, 0.7],
          [0.34, 0.74],
          [0.34, 0.92],
          [0.26, 0.98],
          [0, 0.98],
        ]),
    },
  },
  {
    name: 'harbour_ladder_a',
    slots: {
      'ladder-steel': () =>
        joinPieces([
          box([0.06, 2.4, 0.06], [-0.25, 1.2, 0]),
          box([0.06, 2.4, 0.06], [0.25, 1.2, 0]),
          ...[0.3, 0.66, 1.02, 1.38, 1.74, 2.1].map((y) => box([0.46, 0.04, 0.04], [0, y, 0])),
        ]),
    },
  },
  {
    name: 'harbour_kelp_tuft_a',
    slots: {
      'kelp-blade': () => joinPieces(Array.from({ length: 9 }, (_, i) => blade((i / 9) * Math.PI * 2))),
    },
  },
  {
    name: 'harbour_sparbuoy_a',
    slots: {
      'buoy-lamp': () =>
        turned([
          [0.09, 1.5],
          [0.12, 1.52],
          [0.12, 1.56],
          [0, 1.6],
        ]),
      'buoy-glass': () =>
        joinPieces([
          turned([
            [0, 0],
            [0.3, 0.1],
            [0.3, 0.5],
            [0.08, 0.8],
            [0.08, 1.5],
          ]),
        ]),
    },
  },
  {
    name: 'harbour_net_heap_a',
    slots: {
      'net-hemp': () =>
        joinPieces([0.42, 0.36, 0.3, 0.22, 0.14].map((r, i) => ring(r, 0.05 + i * 0.07, 0.05))),
    },
  },
  {
    name: 'harbour_winch_b',
    slots: {
      'winch-paint': () =>
        joinPieces([
          box([0.08, 0.7, 0.6], [-0.4, 0.35, 0]),
          box([0.08, 0.7, 0.6], [0.4, 0.35, 0]),
          box([0.9, 0.08, 0.62], [0, 0.04, 0]),
        ]),
      'winch-rope': () => joinPieces([0.16, 0.2, 0.24].map((r, i) => ring(r, 0.2 + i * 0.06, 0.04))),
    },
  },
  {
    name: 'harbour_crate_c',
    slots: {
      'crate-pine': () => box([0.8, 0.8, 0.8], [0, 0.4, 0]),
      'crate-band': () =>
        joinPieces([box([0.84, 0.06, 0.84], [0, 0.16, 0]), box([0.84, 0.06, 0.84], [0, 0.64, 0])]),
    },
  },
  {
    name: 'harbour_quaystone_b',
    slots: { 'quay-stone': () => box([1.2, 0.6, 0.6], [0, 0.3, 0]) },
  },
]

const bareSlot = (name: string, at: number): SlotPlan => ({
  name,
  colour: [0.35 + 0.03 * at, 0.36, 0.38, 1],
  roughness: 0.7,
  metallic: 0,
  sheetsPerMetre: 1.5,
})

async function meshFile({ name, slots }: BareMesh): Promise<[string, Uint8Array]> {
  const names = Object.keys(slots)
  const glb = await buildMesh({
    slots: names.map(bareSlot),
    parts: [
      {
        name,
        uvChannels: 1,
        surface: Object.fromEntries(Object.entries(slots).map(([slot, piece]) => [slot, piece()])),
      },
    ],
  })
  return [`${name}.glb`, glb]
}

/** Rope and net: a twisted lay in warm grey. */
const hemp: Surface = (u, v) => {
  const lay = Math.sin((u * 14 + v * 14) * Math.PI * 2),
    fibre = Math.sin((u * 61 - v * 37) * Math.PI * 2)
  return {
    height: 0.004 * lay + 0.0006 * fibre,
    colour: [168 + 16 * lay, 140 + 12 * lay, 96 + 8 * fibre],
    roughness: 0.9,
    metallic: 0,
    occlusion: 0.84 + 0.16 * lay,
  }
}

/** Blades of weed on nothing. */
const kelp: Surface = (u, v) => {
  const rib = Math.abs(Math.sin(u * Math.PI * 6)),
    wave = Math.sin(v * Math.PI * 8 + u * 9)
  return {
    height: 0.003 * rib + 0.001 * wave,
    colour: [70 + 24 * rib, 98 + 18 * rib, 44 + 10 * wave],
    roughness: 0.55,
    metallic: 0,
    occlusion: 0.8 + 0.2 * rib,
    alpha: rib > 0.34 + 0.12 * wave ? 1 : 0,
  }
}

/** A net of the shapes of lamps: dark, with a few lit panes. */
const glow = (): Uint8Array =>
  oneChannel(SIDE, (x, y) => ((x >> 4) % 3 === 1 && (y >> 4) % 3 === 1 ? 246 : 4))
/** Holes of the kelp, as a mask of its own. */
const kelpHoles = (): Uint8Array =>
  oneChannel(SIDE, (x, y) => (kelp((x + 0.5) / SIDE, (y + 0.5) / SIDE).alpha === 1 ? 255 : 0))

/**
 * A delivery in somebody else's manner: eight meshes with twelve bare slots, and textures that are called as they
 * came to mind. Some belong nowhere, one is missing, one set serves two slots.
 */
export async function fromOutside(): Promise<{ path: string; bytes: Uint8Array }[]> {
  const set = (surface: Surface, green: 'up' | 'down' = 'up'): PaintedSet => paint(surface, SIDE, { green })
  const iron = set(bareMetal(211, [104, 112, 118])),
    oak = set(planks(212, 5, [150, 112, 68], [112, 78, 46])),
    steel = set(paintedIron(213, [122, 118, 110])),
    weed = set(kelp),
    lamp = set(paintedIron(214, [208, 152, 62])),
    rope = set(hemp),
    red = set(paintedIron(215, [152, 50, 44])),
    pine = set(planks(216, 6, [186, 150, 100], [140, 104, 66])),
    stone = set(castStone(217)),
    cloth = set(signalCloth(218))
  const textures: Record<string, Uint8Array> = {
    capstan_iron_bc: iron.basecolor,
    capstan_iron_nm: iron.normal,
    capstan_iron_orm: iron.orm,
    capstan_wood_col: oak.basecolor,
    capstan_oak_n: oak.normal,
    capstan_oak_orm: oak.orm,
    LadderRust_albedo: steel.basecolor,
    ladder_norm: steel.normal,
    ladder_misc_02: steel.orm,
    old_normal_copy: steel.normal,
    kelp_diffuse: weed.basecolor,
    kelp_nrm: weed.normal,
    kelp_packed: weed.orm,
    kelp_alpha: kelpHoles(),
    lamp_bc: lamp.basecolor,
    lens_nm: lamp.normal,
    lamp_glow: glow(),
    hemp_02_basecolor: rope.basecolor,
    hemp_02_normal: rope.normal,
    hemp_02_packed: rope.orm,
    'winch-red-colour': red.basecolor,
    'winch body nrm': red.normal,
    'winch body rough': channelOf(red.orm, 1),
    'winch body metal': channelOf(red.orm, 2),
    'winch body ao': channelOf(red.orm, 0),
    crate_c_base: pine.basecolor,
    crate_c_norm: pine.normal,
    crate_c_orm: pine.orm,
    quaystone_dry_bc: stone.basecolor,
    quaystone_wet_bc: tinted(stone.basecolor, [70, 74, 72], 0.5),
    quaystone_weedy_bc: tinted(stone.basecolor, [84, 110, 60], 0.4),
    quaystone_nm: stone.normal,
    quaystone_orm: stone.orm,
    ref_photo_014: tinted(cloth.basecolor, [140, 130, 120], 0.6),
    harbour_lights: glow(),
  }
  return [
    ...(await Promise.all(meshes.map(meshFile))).map(([path, bytes]) => ({ path, bytes })),
    ...Object.entries(textures).map(([name, bytes]) => ({ path: `maps/${name}.png`, bytes })),
  ].map(({ path, bytes }) => ({ path: `from outside/${path}`, bytes }))
}
