// What the page needs of surfaces; nothing here reads a file.
export { hexOfLinear, linearOfHex } from './hexColour'
export { readSurfaceFile, stepsOfSurfaceFile, surfaceFileOf } from './surfaceFile'
export { slotOption, slotValuesAsOptions, type SlotOption } from './slotValuesAsOptions'
export { cutoffOf } from './cutoffOf'
export { tintNames, tintsAfter } from './tintsAfter'
export { islandsOfTexture } from '../subject/islandsOfTexture'
export { cellBytes } from '../geometry/cellMask'
export { fileName } from '../read/deliveryPath'
export { keptSurface, type KeptSurface } from './keptSurface'
export { maskOfSlot } from './maskOfSlot'
export { SURFACE } from './sharedSurfaces'
export { presetOf, surfacePresetNames } from './presets'
export { inputWords, slotInputWords, wordsOfInput } from '../rulebook/inputWords'
export {
  firstLayer,
  layerAfter,
  layerOf,
  optionsOfLayer,
  SECOND_LAYER,
  type LayerOptions,
} from './secondLayer'
export { detailInputs, layerInputs } from '../scene/addedInputs'
export { DETAIL, detailAfter, firstDetail } from './detailMap'
export { DETAIL_GREY } from '../picture/detailGrey'
export { packPicked, type PickedSurface } from './pickedParts'
export { packPainted, type PaintedSurface } from './paintedParts'
