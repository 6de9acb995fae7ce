/** What the address says of the stage: a link shows a colleague the same picture. */
export const stageKeys = [
  'view',
  'level',
  'map',
  'uv',
  'slot',
  'row',
  'only',
  'variant',
  'channel',
  'clip',
  'bones',
  'colour',
  'divider',
  'beside',
  'over',
  'lighting',
  'islands',
  'mip',
] as const

/** What is said of one station alone, and goes when another is looked at. */
export const keysOfOneStation = [
  'finding',
  'texture',
  'row',
  'only',
  'variant',
  'view',
  'uv',
  'clip',
  'bones',
  'colour',
  'mip',
] as const
