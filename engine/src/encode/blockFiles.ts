import { createDefaultContainer, write, type VKFormat } from 'ktx-parse'
import { applicationVersion } from '@stern-gate/contract'
import type { BlockLayout } from './blockLayouts'

/** Blocks of all levels, the largest first. */
export interface BlockLevels {
  width: number
  height: number
  levels: readonly Uint8Array[]
  srgb: boolean
}

const TRANSFER_LINEAR = 1,
  TRANSFER_SRGB = 2,
  PRIMARIES_BT709 = 1
/** Alpha is never under the curve (Khronos data format 1.3, 5.13). */
const ALPHA = 15,
  LINEAR = 16

/** A KTX2 of blocks, not packed further (KTX 2.0, with its basic data format descriptor). */
export function ktx2OfBlocks({ width, height, levels, srgb }: BlockLevels, layout: BlockLayout): Uint8Array {
  const container = createDefaultContainer()
  const bits = (layout.bytes * 8) / layout.samples.length
  container.vkFormat = layout.vk[srgb ? 1 : 0] as VKFormat
  container.typeSize = 1
  container.pixelWidth = width
  container.pixelHeight = height
  container.levelCount = levels.length
  container.levels = levels.map((level) => ({
    levelData: new Uint8Array(level),
    uncompressedByteLength: level.length,
  }))
  container.dataFormatDescriptor = [
    {
      vendorId: 0,
      descriptorType: 0,
      versionNumber: 2,
      colorModel: layout.model,
      colorPrimaries: PRIMARIES_BT709,
      transferFunction: srgb && layout.vk[0] !== layout.vk[1] ? TRANSFER_SRGB : TRANSFER_LINEAR,
      flags: 0,
      texelBlockDimension: [layout.width - 1, layout.height - 1, 0, 0],
      bytesPlane: [layout.bytes, 0, 0, 0, 0, 0, 0, 0],
      samples: layout.samples.map((channel, i) => ({
        bitOffset: i * bits,
        // Stored as one less than it is
        bitLength: bits - 1,
        channelType: channel === ALPHA && srgb ? channel | LINEAR : channel,
        samplePosition: [0, 0, 0, 0],
        sampleLower: 0,
        sampleUpper: 0xffffffff,
      })),
    },
  ]
  container.keyValue = { KTXorientation: 'rd', KTXwriter: `Stern Gate ${applicationVersion}` }
  return write(container, { keepWriter: true })
}

const HEADER = 148
const FLAGS = 0x1 | 0x2 | 0x4 | 0x1000 | 0x80000,
  FLAG_MIPS = 0x20000
const CAPS_TEXTURE = 0x1000,
  CAPS_MIPS = 0x400008

/** A DDS of blocks with the DX10 header; null where DDS has no number for the format. */
export function ddsOfBlocks(
  { width, height, levels, srgb }: BlockLevels,
  layout: BlockLayout,
): Uint8Array | null {
  if (!layout.dxgi) return null
  const file = new Uint8Array(HEADER + levels.reduce((sum, l) => sum + l.length, 0))
  const view = new DataView(file.buffer)
  const word = (at: number, value: number): void => view.setUint32(at, value, true)
  file.set([...'DDS '].map((c) => c.charCodeAt(0)))
  word(4, 124)
  word(8, FLAGS | (levels.length > 1 ? FLAG_MIPS : 0))
  word(12, height)
  word(16, width)
  word(20, levels[0]!.length)
  word(28, levels.length)
  // The pixel format says only that the DX10 header follows
  word(76, 32)
  word(80, 0x4)
  file.set(
    [...'DX10'].map((c) => c.charCodeAt(0)),
    84,
  )
  word(108, CAPS_TEXTURE | (levels.length > 1 ? CAPS_MIPS : 0))
  word(128, layout.dxgi[srgb ? 1 : 0])
  word(132, 3)
  word(140, 1)
  let at = HEADER
  for (const level of levels) {
    file.set(level, at)
    at += level.length
  }
  return file
}
