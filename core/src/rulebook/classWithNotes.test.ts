import { describe, expect, it } from 'vitest'
import { nothingNoted, type AssetNotes } from '@stern-gate/contract'
import { classWithNotes } from './classWithNotes'
import { defaultRulebook } from './defaultRulebook'

const structure = { ...defaultRulebook.classes['structure']!, dataChannels: [2] }
const noted = (notes: Partial<AssetNotes>) => classWithNotes(structure, { ...nothingNoted, ...notes })

describe('what is noted of an asset', () => {
  it('goes before its class: channels of data, baked light, an origin that is meant', () => {
    expect(noted({})).toBe(structure)
    expect(noted({ channels: [{ channel: 2, purpose: 'surface' }] }).dataChannels).toEqual([])
    expect(noted({ channels: [{ channel: 0, purpose: 'data' }] }).dataChannels).toEqual([0, 2])
    expect(noted({ channels: [{ channel: 3, purpose: 'lightmap' }] })).toMatchObject({
      lightmap: true,
      lightmapChannel: 3,
    })
    expect(noted({ pivotMeant: true }).pivots).toEqual(['any'])
    expect(noted({ channels: [{ channel: 3, purpose: 'data' }] }).pivots).toEqual(structure.pivots)
  })
  it('that takes the channel of the lightmap leaves it the next one that serves nothing', () => {
    expect(structure).toMatchObject({ lightmap: true, lightmapChannel: 1 })
    const ramp = noted({ channels: [{ channel: 1, purpose: 'data' }] })
    expect([ramp.lightmapChannel, ramp.dataChannels]).toEqual([3, [1, 2]])
    expect(
      noted({
        channels: [
          { channel: 1, purpose: 'surface' },
          { channel: 2, purpose: 'surface' },
        ],
      }).lightmapChannel,
    ).toBe(3)
  })
})
