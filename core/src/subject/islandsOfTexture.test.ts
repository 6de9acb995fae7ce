import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { CELLS, cellBytes, packCells } from '../geometry/cellMask'
import { islandsOfTexture } from './islandsOfTexture'

const cells = (...on: number[]): string => {
  const mask = new Uint8Array(CELLS * CELLS)
  for (const cell of on) mask[cell] = 1
  return packCells(mask)
}
const slot = (name: string, placed = false) =>
  ({
    name,
    textures: [{ field: 'base', placement: placed ? { tiling: [2, 2], offset: [0, 0], turn: 0 } : null }],
  }) as unknown as NonNullable<MeshFacts['slots']>[number]
const mesh = {
  slots: [slot('hull'), slot('deck'), slot('rope', true)],
  islands: [
    { slot: 'hull', channel: 0, cells: cells(3, 4) },
    { slot: 'hull', channel: 1, cells: cells(900) },
    { slot: 'deck', channel: 0, cells: cells(4, 300) },
    { slot: 'rope', channel: 0, cells: cells(7) },
  ],
}
const used = (...slots: string[]): number[] | null => {
  const bits = islandsOfTexture(
    mesh,
    slots.map((name) => ({ slot: name, field: 'base', channel: 0 })),
  )
  return bits && [...cellBytes(bits)].flatMap((on, cell) => (on ? [cell] : []))
}

describe('the islands of a texture', () => {
  it('are those of all slots that use it, on the channel that it lies on', () => {
    expect(used('hull')).toEqual([3, 4])
    expect(used('hull', 'deck')).toEqual([3, 4, 300])
    expect(
      islandsOfTexture(mesh, [{ slot: 'hull', field: 'base', channel: 1 }])!.filter((w) => w !== 0),
    ).toEqual(Uint32Array.of(1 << (900 % 32)))
  })
  it('are not known where a slot places it, has no UVs there, or nothing uses it', () => {
    expect(used('hull', 'rope')).toBeNull()
    expect(islandsOfTexture(mesh, [{ slot: 'deck', field: 'base', channel: 1 }])).toBeNull()
    expect(islandsOfTexture(mesh, [{ slot: 'hull', field: 'normal', channel: 0 }])).toBeNull()
    expect(used()).toBeNull()
    expect(islandsOfTexture(null, [{ slot: 'hull', field: 'base', channel: 0 }])).toBeNull()
  })
})
