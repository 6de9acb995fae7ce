import type { TextureRole } from '@stern-gate/contract'
import { listInWords } from '../numbers/listInWords'
import { inputWords } from '../rulebook/inputWords'
import { reasonOfContent } from '../rulebook/roleByContent'
import type { ReadSlot } from './nameScore'
import type { Option } from './chooseTextures'

/** Why a texture is for a cell, in a sentence or two. */
export function sayOption(
  slot: ReadSlot,
  { texture, candidate }: Option,
  role: TextureRole,
  together: readonly TextureRole[] = [],
): string {
  const { shared, against } = candidate
  const names =
    shared.length > 0
      ? `Slot and texture both say ${listInWords(shared)}`
      : 'Another texture of its set feeds the slot already'
  const { named, contradicts } = texture
  const carries =
    named?.role === role
      ? contradicts
        ? `its name says ${named.said}, its pixels look like ${inputWords[contradicts]}`
        : `${named.said} stands for ${inputWords[role]}`
      : `by its pixels it is ${inputWords[role]}: ${reasonOfContent(role)}`
  const others =
    together.length > 0
      ? ` The ${listInWords(together.map((r) => inputWords[r]))} of this slot is of the same set.`
      : ''
  const variant = against ? ` But it is numbered for another than ${slot.slot.asset}.` : ''
  return `${names}; ${carries}.${others}${variant}`
}

/** Why a cell stays open. */
export function sayOpen(slot: ReadSlot, role: TextureRole, near: number): string {
  const words = [...new Set([...slot.own, ...slot.asset])].slice(0, 3)
  const nothing =
    words.length > 0
      ? `Nothing here goes together with ${listInWords(words)} and carries ${inputWords[role]}.`
      : `The slot's name says nothing, and nothing here that carries ${inputWords[role]} stands by itself.`
  return near === 0 ? nothing : `${nothing} ${near === 1 ? 'One comes' : `${near} come`} near.`
}

export const saySettled = (name: string, by: 'file' | 'person'): string =>
  name === ''
    ? 'It was left open on purpose.'
    : by === 'file'
      ? `${name} feeds it already.`
      : `${name} was given to it by hand.`
