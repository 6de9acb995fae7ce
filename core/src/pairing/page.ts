// What the page needs of pairing; nothing here reads a file.
export { pairDelivery } from './pairDelivery'
export { ownerOfId } from './pairingProblem'
export { inputWords } from '../rulebook/inputWords'
export { presetOf, surfacePresetNames } from '../surfaces/presets'
