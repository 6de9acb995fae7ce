import { blockFormats, type EncodedFormat } from '@stern-gate/contract'

/** How blocks of a format are called in files: Vulkan numbers (linear, sRGB), DXGI numbers, data format descriptor. */
export interface BlockLayout {
  width: number
  height: number
  bytes: number
  vk: readonly [linear: number, srgb: number]
  /** Null: DDS has no number for it. */
  dxgi: readonly [linear: number, srgb: number] | null
  /** Colour model of the Khronos data format descriptor. */
  model: number
  /** Channel of each part of a block, one after the other. */
  samples: readonly number[]
  /** Channels that the format keeps. */
  keeps: readonly number[]
}

const RED = 0,
  GREEN = 1,
  ALPHA = 15,
  /** What colour is called in ETC2, where red stands for a format of one channel. */
  ETC2_COLOUR = 2
const MODEL = { bc1: 128, bc3: 130, bc4: 131, bc5: 132, bc7: 134, etc2: 161, astc: 162 } as const
const all = [0, 1, 2, 3] as const

type Written = Omit<BlockLayout, 'width' | 'height' | 'bytes'>
const astc = (vk: number): Written => ({
  vk: [vk, vk + 1],
  dxgi: null,
  model: MODEL.astc,
  samples: [RED],
  keeps: all,
})

const written: Readonly<Record<PlainFormat, Written>> = {
  BC1: { vk: [131, 132], dxgi: [71, 72], model: MODEL.bc1, samples: [RED], keeps: [0, 1, 2] },
  BC3: { vk: [137, 138], dxgi: [77, 78], model: MODEL.bc3, samples: [ALPHA, RED], keeps: all },
  BC4: { vk: [139, 139], dxgi: [80, 80], model: MODEL.bc4, samples: [RED], keeps: [0] },
  BC5: { vk: [141, 141], dxgi: [83, 83], model: MODEL.bc5, samples: [RED, GREEN], keeps: [0, 1] },
  BC7: { vk: [145, 146], dxgi: [98, 99], model: MODEL.bc7, samples: [RED], keeps: all },
  ETC2: { vk: [151, 152], dxgi: null, model: MODEL.etc2, samples: [ALPHA, ETC2_COLOUR], keeps: all },
  'ASTC 4×4': astc(157),
  'ASTC 5×5': astc(161),
  'ASTC 6×6': astc(165),
  'ASTC 8×8': astc(171),
}

/** Formats whose blocks are written level by level; ETC1S and UASTC are whole files of Basis Universal. */
export type PlainFormat = Exclude<EncodedFormat, 'ETC1S' | 'UASTC'>
export const isPlainFormat = (format: EncodedFormat): format is PlainFormat => format in written
export const layoutOf = (format: PlainFormat): BlockLayout => ({
  ...blockFormats[format],
  ...written[format],
})
