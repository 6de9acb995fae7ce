import * as z from 'zod'
import type { SlotFacts, TintChannel } from '@stern-gate/contract'
import type { SubjectTexture } from '../../subject/subject'
import { maskOfSlot } from '../../surfaces/maskOfSlot'
import { defineRule, type RawFinding } from '../defineRule'

type Message = 'empty' | 'alike' | 'undeclared' | 'noMask'

/** A channel whose greatest value is below this, of 1, holds nothing but what a codec left there. */
const NOTHING = 8 / 255
/** From this share of texels with equal channels on, a mask is one grey picture. */
const GREY = 0.995

export const tintChannels = defineRule({
  id: 'slots/tint-channels',
  station: 'slots',
  meta: {
    title: 'A tint mask carries the channels that its slot declares',
    why:
      'A tint that is declared on an empty channel colours nothing, however it is set; ' +
      'one that nobody declared is never seen.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['tints of the slot', 'least and greatest values of the mask'],
  },
  options: z.strictObject({}),
  messages: {
    empty: '{channel} of {texture} is empty; slot {slot} declares a tint there.',
    alike: {
      level: 'caution',
      text: '{texture} is one grey picture; the {tints|n} tints of slot {slot} would all lie in the same place.',
    },
    undeclared: {
      level: 'caution',
      text: '{channel} of {texture} carries a mask; slot {slot} declares no tint there.',
    },
    noMask: 'Slot {slot} declares {tints|n|tint|tints}, but no texture of the asset is its mask.',
  },
  labels: { drop: 'Take back the tint of {low}' },
  judge(subject) {
    const findings: RawFinding<Message, 'drop'>[] = []
    for (const slot of subject.mesh?.slots ?? []) {
      if (slot.tints.length === 0) continue
      const mask = maskOfSlot(subject.textures, slot.name)
      if (!mask)
        findings.push({
          message: 'noMask',
          data: { slot: slot.name, tints: slot.tints.length },
          place: { kind: 'slot', slot: slot.name, input: 'tint' },
        })
      else findings.push(...againstMask(slot, mask))
    }
    return findings
  },
})

function againstMask(slot: SlotFacts, mask: SubjectTexture): RawFinding<Message, 'drop'>[] {
  const channels = mask.facts?.channels
  if (!channels) return []
  const place = { kind: 'slot' as const, slot: slot.name, input: 'tint' }
  const declared = slot.tints.map((t) => t.channel)
  const coloured = declared.filter((c) => c !== 'A')
  const isGrey = channels[0]!.name === 'grey' || (mask.facts?.content?.grey ?? 0) >= GREY
  if (isGrey && coloured.length > 1)
    return [
      {
        message: 'alike',
        data: { texture: mask.name, slot: slot.name, tints: coloured.length },
        place,
        part: mask.name,
      },
    ]
  const carries = (name: TintChannel): boolean => {
    const found = channels.find((c) => c.name === name) ?? (name === 'A' ? undefined : channels[0])
    return found !== undefined && found.max >= NOTHING
  }
  const about = (channel: TintChannel, message: 'empty' | 'undeclared'): RawFinding<Message, 'drop'> => ({
    message,
    data: { channel: words[channel], low: words[channel].toLowerCase(), texture: mask.name, slot: slot.name },
    place,
    part: channel,
    remedies:
      message === 'empty'
        ? [
            {
              remedy: 'slots/tint',
              options: { slot: slot.name, [words[channel].toLowerCase()]: 'none' },
              label: 'drop',
            },
          ]
        : [],
  })
  return [
    ...declared.filter((c) => !carries(c)).map((c) => about(c, 'empty')),
    ...(isGrey ? [] : (['R', 'G', 'B'] as const))
      .filter((c) => !declared.includes(c) && carries(c))
      .map((c) => about(c, 'undeclared')),
  ]
}

const words: Readonly<Record<TintChannel, string>> = { R: 'Red', G: 'Green', B: 'Blue', A: 'Alpha' }
