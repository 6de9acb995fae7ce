import * as z from 'zod'
import { channelWords } from '../channelWords'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const count = defineRule({
  id: 'uvs/count',
  station: 'uvs',
  meta: {
    title: 'No more UV channels than the target takes',
    why: 'Channels over the limit are dropped without a word, and each one costs memory at every vertex.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['UV channels of every primitive', 'limit of the target'],
  },
  options: z.strictObject({}),
  messages: {
    many: '{count} UV channels; the {target} target takes {limit}.',
  },
  labels: { remove: 'Remove {last}' },
  judge(subject) {
    const limit = subject.target.uvChannels
    return findingsOf(subject.parts.drawn, (node) => {
      const found = new Set<number>()
      for (const { uvChannels } of node.primitives) for (const { channel } of uvChannels) found.add(channel)
      if (found.size <= limit) return null
      const channels = [...found],
        last = Math.max(...channels)
      return {
        message: 'many' as const,
        data: {
          count: channels.length,
          limit,
          target: subject.target.title.toLowerCase(),
          last: channelWords(last),
        },
        place: { kind: 'channel' as const, node: node.path, channel: last },
        gauge: { value: channels.length, unit: 'count' as const, max: limit, scale: 'linear' as const },
        measure: channels.length,
        remedies: [
          { remedy: 'uvs/remove', options: { node: node.path, channel: last }, label: 'remove' as const },
        ],
      }
    })
  },
})
