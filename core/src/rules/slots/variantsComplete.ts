import * as z from 'zod'
import type { SlotFacts } from '@stern-gate/contract'
import { wordsOfInput } from '../../rulebook/inputWords'
import { isMeaningful } from '../../rulebook/nameWords'
import type { Subject, SubjectTexture } from '../../subject/subject'
import { defineRule, type RawFinding } from '../defineRule'
import { findingsOf } from '../findingsOf'

type Message = 'partly' | 'lacks' | 'loose'
type Found = RawFinding<Message, 'add' | 'share'>

export const variantsComplete = defineRule({
  id: 'slots/variants-complete',
  station: 'slots',
  meta: {
    title: 'Variants are whole',
    why: 'A variant that lacks a map, or that some parts do not follow, shows two looks at once when it is chosen.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['variants of the file', 'inputs of the slots', 'names of textures that no slot uses'],
  },
  options: z.strictObject({}),
  messages: {
    partly:
      'Variant {variant} exchanges slot {slot} on {parts} of its {of} parts; the others keep their look.',
    lacks: 'Variant {variant} of slot {slot} has no {inputs}, which the slot itself has.',
    loose: {
      level: 'note',
      text:
        '{count|n|texture looks|textures look} like other choices for {texture} ' +
        'on {slots|n|slot|slots} ({variants}); the file has no variants.',
    },
  },
  labels: { add: 'Add the variant {variant}', share: 'Give it what the slot has' },
  judge(subject) {
    const variants = subject.mesh?.variants ?? []
    const slots = new Map((subject.mesh?.slots ?? []).map((s) => [s.name, s]))
    const findings: Found[] = variants.flatMap(({ name, choices }) =>
      choices.flatMap((choice) => {
        const place = { kind: 'slot' as const, slot: choice.slot }
        const lacked = lackedTextures(slots.get(choice.slot), slots.get(choice.wears))
        const about = { variant: name, slot: choice.slot }
        return [
          ...(choice.parts < choice.of
            ? [
                {
                  message: 'partly' as const,
                  data: { ...about, parts: choice.parts, of: choice.of },
                  place,
                  part: `${name} in part`,
                },
              ]
            : []),
          ...(lacked.length > 0
            ? [
                {
                  message: 'lacks' as const,
                  data: { ...about, inputs: lacked.map(inputWord).join(' and no ') },
                  place,
                  part: name,
                  remedies: sharing(subject, choice, lacked),
                },
              ]
            : []),
        ]
      }),
    )
    return variants.length > 0 ? findings : looseChoices(subject)
  },
})

type SlotTexture = SlotFacts['textures'][number]

/** Textures that feed an input of the slot which nothing feeds in the one that stands in for it. */
function lackedTextures(own: SlotFacts | undefined, worn: SlotFacts | undefined): SlotTexture[] {
  if (!own || !worn) return []
  return own.textures.filter(({ field }) => !worn.textures.some((t) => t.field === field))
}

const inputWord = ({ field, input }: SlotTexture): string => wordsOfInput(input, field)

/** Inputs that a step can give a slot as they are. */
const SHARED = ['basecolor', 'normal', 'emissive'] as const

/** The slot's own textures for what its stand-in lacks; its values still make it another look. */
function sharing(
  subject: Subject,
  { slot, wears }: { slot: string; wears: string },
  lacked: readonly SlotTexture[],
): Found['remedies'] {
  const given = SHARED.flatMap((input) => {
    const isLacked = lacked.some((t) => t.input === input)
    const texture = subject.textures.find((t) => t.uses.some((u) => u.slot === slot && u.input === input))
    return isLacked && texture ? [[input, texture.name]] : []
  })
  return given.length < lacked.length
    ? []
    : [
        {
          remedy: 'slots/feed',
          options: { slot: wears, tinted: true, ...Object.fromEntries(given) },
          label: 'share',
        },
      ]
}

/** Base colours that nothing uses and whose names differ by one word from one that slots wear. */
function looseChoices(subject: Subject): Found[] {
  const loose = subject.textures.filter((t) => t.uses.length === 0 && t.role === 'basecolor')
  return findingsOf(loose.length > 0 ? subject.textures : [], (worn): Found | null => {
    const slots = [...new Set(worn.uses.filter((u) => u.input === 'basecolor').map((u) => u.slot))]
    const choices = slots.length > 0 ? choicesOf(worn, loose) : []
    if (choices.length === 0) return null
    return {
      message: 'loose',
      data: {
        count: choices.length,
        texture: worn.name,
        slots: slots.length,
        variants: choices.map((c) => c.variant).join(', '),
      },
      place: { kind: 'slot', slot: slots[0]!, input: 'basecolor' },
      part: worn.name,
      remedies: choices.map(({ texture, variant }) => ({
        remedy: 'slots/variant',
        options: { slot: slots[0]!, variant, basecolor: texture.name, alike: true },
        label: 'add',
      })),
    }
  })
}

const choicesOf = (worn: SubjectTexture, loose: readonly SubjectTexture[]) =>
  loose.flatMap((texture) => {
    const variant = otherWord(texture, worn)
    return variant === null ? [] : [{ texture, variant }]
  })

/** Names of fewer words have no thing, choice and role in them. */
const LEAST_WORDS = 3
/** Numbers and single letters tell things apart, not choices of one thing. */
const MARK = /^(\d+|[a-z])$/

/**
 * The one word in which a texture's name differs from another of the same size, or that it has besides; null where the
 * names differ otherwise, and where the word is a number or one that says nothing.
 */
function otherWord(texture: SubjectTexture, worn: SubjectTexture): string | null {
  const [own, theirs] = [texture, worn].map((t) => t.words.all.filter((word) => !MARK.test(word))) as [
    string[],
    string[],
  ]
  const [a, b] = [texture.facts?.header, worn.facts?.header]
  if (own.length < LEAST_WORDS || !a || !b || a.width !== b.width || a.height !== b.height) return null
  const first = own.findIndex((word, i) => word !== theirs[i])
  if (first < 0) return null
  const rest = theirs.slice(own.length === theirs.length ? first + 1 : first)
  const isOne =
    (own.length === theirs.length || own.length === theirs.length + 1) &&
    own.slice(first + 1).join(' ') === rest.join(' ')
  return isOne && isMeaningful(own[first]!) ? own[first]! : null
}
