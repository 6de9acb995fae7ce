// What the page needs of pairing; nothing here reads a file.
export { pairDelivery } from './pairDelivery'
export { inputWords } from './pairingReasons'
export { presetOf, surfacePresetNames } from '../surfaces/presets'
