import * as z from 'zod'
import { areSwapped, UNIQUE_OVERLAP } from '../swappedChannels'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

type Found = RawFinding<'between' | 'edge' | 'unmeasured', 'layOut'>

export const lightmapGap = defineRule({
  id: 'uvs/lightmap-gap',
  station: 'uvs',
  meta: {
    title: 'Islands of a lightmap stand apart',
    why: 'A texel that two islands share takes the light of both: a lit edge glows in the dark beside it.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['least distance of islands and of the edge of the sheet', 'lightmap of the class'],
  },
  options: z.strictObject({
    between: z.number().min(0).max(64).default(2).describe('texels of the lightmap between two islands'),
    edge: z.number().min(0).max(64).default(1).describe('texels of the lightmap at the edge of the sheet'),
  }),
  messages: {
    between: {
      byClass: true,
      text: 'Islands on {channel} stand {texels} texels of a lightmap of {size} apart ({share|%} of the sheet); {wanted} are needed.',
    },
    edge: {
      byClass: true,
      text: 'An island on {channel} stands {texels} texels of a lightmap of {size} from the edge ({share|%} of the sheet); {wanted} are needed.',
    },
    unmeasured: {
      level: 'note',
      text: 'Gaps of islands on {channel} are not measured: a first channel is taken for that of the textures.',
    },
  },
  labels: { layOut: 'Lay out UV{channel} anew for {size} texels' },
  judge(subject, { between, edge }) {
    const { lightmap, lightmapChannel: channel, lightmapTexels: size } = subject.class
    if (!lightmap) return []
    return subject.parts.finest.flatMap((node): Found[] => {
      const sheet = node.sheets.find((s) => s.channel === channel && s.slot === null)
      if (!sheet || areSwapped(node, { texture: 0, lightmap: channel, overlap: UNIQUE_OVERLAP })) return []
      const place = { kind: 'channel' as const, node: node.path, channel }
      const words = channelWords(channel)
      if (channel === 0)
        return [{ message: 'unmeasured', data: { channel: words }, place, part: 'unmeasured' }]
      // What lies over itself or leaves the sheet is told by other rules, and mended with them
      if (!sheet.gap || sheet.overlapped > sheet.covered * UNIQUE_OVERLAP || sheet.gap.edge < 0) return []
      const found = (message: 'between' | 'edge', gap: number, wanted: number): Found[] => {
        const texels = Number((gap * size).toFixed(2))
        return texels >= wanted
          ? []
          : [
              {
                message,
                data: { channel: words, texels, size, share: gap, wanted },
                place,
                part: message,
                gauge: { value: texels, unit: 'texels', min: wanted, scale: 'linear' },
                measure: -texels,
                remedies: [
                  {
                    remedy: 'uvs/lay-out',
                    options: { node: node.path, channel, size, gap: Math.ceil(between), keep: false },
                    label: 'layOut',
                  },
                ],
              },
            ]
      }
      return [
        ...(sheet.gap.between === null ? [] : found('between', sheet.gap.between, between)),
        ...found('edge', sheet.gap.edge, edge),
      ]
    })
  },
})
