// What the page needs of surfaces; nothing here reads a file.
export { hexOfLinear } from './hexColour'
export { presetOf, surfacePresetNames } from './presets'
export { inputWords, slotInputWords } from '../rulebook/inputWords'
