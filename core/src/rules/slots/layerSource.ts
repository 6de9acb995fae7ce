import * as z from 'zod'
import type { PrimitiveFacts, SecondLayer, SlotFacts } from '@stern-gate/contract'
import type { Subject } from '../../subject/subject'
import { maskOfSlot } from '../../surfaces/maskOfSlot'
import { defineRule, type RawFinding } from '../defineRule'

type Message = 'noColours' | 'even' | 'noMask' | 'emptyMask' | 'noUvs'
type Found = RawFinding<Message, never>

/** A channel whose values differ by less than this, of 1, is the same everywhere. */
const NOTHING = 8 / 255

export const layerSource = defineRule({
  id: 'slots/layer-source',
  station: 'slots',
  meta: {
    title: 'A second layer has something to be laid by',
    why:
      'A second layer is laid by a channel of the vertex colours, of the mask, or along a UV channel. ' +
      'Where that is missing, or the same everywhere, the layer is nowhere or covers all.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['second layers of the slots', 'vertex colours', 'UV channels', 'the mask of the slot'],
  },
  options: z.strictObject({}),
  messages: {
    noColours:
      'The second layer of slot {slot} is laid by {channel} of vertex colours {set}; ' +
      'parts with that slot that lack them: {parts} of {of}.',
    even: '{channel} of vertex colours {set}, which lays the second layer of slot {slot}, is the same everywhere.',
    noMask: 'The second layer of slot {slot} is laid by {channel} of its mask, but no texture is its mask.',
    emptyMask: '{channel} of {texture}, which lays the second layer of slot {slot}, is the same everywhere.',
    noUvs:
      'The second layer of slot {slot} lies on UV{uv}; parts with that slot that lack it: {parts} of {of}.',
  },
  labels: {},
  judge: (subject) =>
    (subject.mesh?.slots ?? []).flatMap((slot) => (slot.layer ? aboutLayer(subject, slot, slot.layer) : [])),
})

function aboutLayer(subject: Subject, slot: SlotFacts, layer: SecondLayer): Found[] {
  const parts = (subject.mesh?.nodes ?? []).flatMap((n) => n.primitives.filter((p) => p.slot === slot.name))
  if (parts.length === 0) return []
  const { by } = layer
  if (by.kind === 'ramp') return aboutUvs(slot.name, layer.uv, parts)
  const hasTexture = slot.textures.some((t) => t.field === 'layer')
  return [
    ...(by.kind === 'vertex'
      ? aboutColours(slot.name, by, parts)
      : aboutMask(subject, slot.name, by.channel)),
    ...(hasTexture ? aboutUvs(slot.name, layer.uv, parts) : []),
  ]
}

function aboutUvs(slot: string, uv: number, parts: Parts): Found[] {
  const without = parts.filter((p) => !p.uvChannels.some((c) => c.channel === uv))
  return without.length === 0
    ? []
    : [
        {
          message: 'noUvs',
          data: { slot, uv, parts: without.length, of: parts.length },
          place: { kind: 'slot', slot },
          part: 'uv',
        },
      ]
}

type Parts = readonly PrimitiveFacts[]

function aboutColours(
  slot: string,
  { set, channel }: Extract<SecondLayer['by'], { kind: 'vertex' }>,
  parts: Parts,
): Found[] {
  const place = { kind: 'slot' as const, slot }
  const n = 'RGBA'.indexOf(channel)
  const ranges = parts.flatMap(({ colours }) => {
    const least = colours[set]?.min[n],
      most = colours[set]?.max[n]
    return least === undefined || most === undefined ? [] : [[least, most] as const]
  })
  if (ranges.length < parts.length)
    return [
      {
        message: 'noColours',
        data: { slot, channel, set, parts: parts.length - ranges.length, of: parts.length },
        place,
      },
    ]
  const least = Math.min(...ranges.map(([low]) => low)),
    most = Math.max(...ranges.map(([, high]) => high))
  return most - least >= NOTHING ? [] : [{ message: 'even', data: { slot, channel, set }, place }]
}

function aboutMask(subject: Subject, slot: string, channel: string): Found[] {
  const place = { kind: 'slot' as const, slot, input: 'tint' }
  const mask = maskOfSlot(subject.textures, slot)
  if (!mask) return [{ message: 'noMask', data: { slot, channel }, place }]
  const channels = mask.facts?.channels
  const found = channels?.find((c) => c.name === channel || c.name === 'grey')
  if (!channels || (found && found.max - found.min >= NOTHING)) return []
  return [{ message: 'emptyMask', data: { slot, channel, texture: mask.name }, place, part: mask.name }]
}
