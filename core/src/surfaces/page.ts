// What the page needs of surfaces; nothing here reads a file.
export { hexOfLinear, linearOfHex } from './hexColour'
export { cutoffOf } from './cutoffOf'
export { tintNames, tintsAfter } from './tintsAfter'
export { maskOfSlot } from './maskOfSlot'
export { SURFACE } from './sharedSurfaces'
export { presetOf, surfacePresetNames } from './presets'
export { inputWords, slotInputWords } from '../rulebook/inputWords'
