// What the page needs of surfaces; nothing here reads a file.
export { hexOfLinear, linearOfHex } from './hexColour'
export { maskOfSlot } from './maskOfSlot'
export { resolveSurface, SURFACE } from './sharedSurfaces'
export { presetOf, surfacePresetNames } from './presets'
export { inputWords, slotInputWords } from '../rulebook/inputWords'
