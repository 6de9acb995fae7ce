import type * as z from 'zod'
import type { FindingData, Gauge, Level, Place, RemedyOptions, Station } from '@stern-gate/contract'
import type { Subject } from '../subject/subject'

/** What a rule says about one place, before the judge fills text and level. */
export interface RawFinding<Message extends string = string, Label extends string = string> {
  message: Message
  data: FindingData
  place: Place
  gauge?: Gauge
  remedies?: { remedy: string; options: RemedyOptions; label: Label }[]
  /** The measured value: what was waived is looked at anew when it gets worse. No part of the identity. */
  measure?: number
  /** What of the place it speaks of – a slot, an input, another file –, where a place can have several findings. */
  part?: string
  /** Where its identity stands, when the place is only the evidence at hand. */
  identity?: Place
}

/**
 * A message of a rule: text with {placeholders}, its own level where it differs from the rule's, and whether it
 * speaks of what the class expects – which is a note as long as the class is only guessed.
 */
export type RuleMessage = string | { level?: Level; byClass?: true; text: string }

export interface RuleMeta {
  title: string
  /** Why it matters, in one sentence. */
  why: string
  level: Level
  /** Which kinds of asset it looks at. */
  kinds: readonly ('mesh' | 'texture-set')[]
  /** Facts that it reads. */
  reads: readonly string[]
}

export interface Rule<Options = unknown, Message extends string = string, Label extends string = string> {
  id: string
  station: Station
  meta: RuleMeta
  options: z.ZodType<Options>
  messages: Record<Message, RuleMessage>
  /**
   * Labels of the remedies it offers, with {placeholders} filled from the finding's data and the remedy's
   * options.
   */
  labels: Record<Label, string>
  judge: (subject: Subject, options: Options) => RawFinding<Message, Label>[]
}

/** Ties a rule's types together; a message or label key that does not exist does not compile. */
export const defineRule = <Options, Message extends string, Label extends string = never>(
  rule: Rule<Options, Message, Label>,
): Rule<Options, Message, Label> => rule
