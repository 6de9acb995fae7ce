import type { SurfaceSuggestion } from '@stern-gate/contract'
import { presetOf, surfacePresetNames } from '../surfaces/presets'
import type { ReadSlot } from './nameScore'
import { nearWords } from './nearWords'

/** How sure a word makes by where it stands. */
const OF_SLOT = 0.95,
  OF_NODES = 0.7,
  OF_ASSET = 0.45
/** A colour that has to be chosen yet makes a proposal less sure. */
const ANY_COLOUR = 0.7
const LEAST = 0.3
/** Words that are only of one kind with those of a preset are no reason. */
const NEAR = 0.55

/** The preset whose words stand in the names of a slot, its nodes or its mesh; null: none. */
export function suggestSurface(slot: ReadSlot): SurfaceSuggestion | null {
  const places = [
    { words: slot.own, sure: OF_SLOT, what: 'The slot says' },
    { words: slot.nodes, sure: OF_NODES, what: 'Its node says' },
    { words: slot.asset, sure: OF_ASSET, what: 'Its mesh says' },
  ]
  let best: (SurfaceSuggestion & { length: number }) | null = null
  for (const preset of surfacePresetNames) {
    const { words, title, anyColour } = presetOf(preset)!
    for (const { words: said, sure, what } of places)
      for (const word of said) {
        const near = Math.max(...words.map((w) => nearWords(w, word)))
        if (near < NEAR) continue
        const confidence = sure * near * (anyColour ? ANY_COLOUR : 1)
        if (confidence < LEAST || (best && best.confidence >= confidence)) continue
        best = {
          preset,
          title,
          confidence,
          reason: reasonOf(what, word, title, anyColour),
          length: word.length,
        }
      }
  }
  const found = isWet(slot, best?.preset) ? wetStone(best!) : best
  return (
    found && { preset: found.preset, title: found.title, confidence: found.confidence, reason: found.reason }
  )
}

const reasonOf = (what: string, word: string, title: string, anyColour: boolean | undefined): string =>
  `${what} ${word}: ${title}, by values alone.${anyColour ? ' Its colour is yours to choose.' : ''}`

/** Stone in water is darker and smoother. */
const isWet = (slot: ReadSlot, preset: string | undefined): boolean =>
  preset === 'stone' && [...slot.own, ...slot.nodes].includes('wet')

const wetStone = (dry: SurfaceSuggestion): SurfaceSuggestion => ({
  ...dry,
  preset: 'wet-stone',
  title: presetOf('wet-stone')!.title,
  reason: dry.reason.replace(presetOf('stone')!.title, presetOf('wet-stone')!.title),
})
