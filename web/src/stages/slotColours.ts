/** Colours of slots, in their order: far apart in hue, alike in weight, none of them a level's. */
export const slotColours = [
  '#5f9ea0',
  '#c9a45c',
  '#8f7fb8',
  '#7fa36b',
  '#c27e5f',
  '#6d8fc4',
  '#a8a062',
  '#b5799b',
  '#5fa98c',
  '#9a8574',
] as const

/** The same name has the same colour on the stage and in the table. */
export const slotColour = (slots: readonly string[], name: string): string =>
  slotColours[Math.max(0, slots.indexOf(name)) % slotColours.length]!
