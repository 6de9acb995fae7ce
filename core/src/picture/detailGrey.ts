import { srgbToLinear } from '../image/transferCurves'

/** Linear light of the grey of a detail map that leaves the base colour as it is. */
export const DETAIL_GREY = srgbToLinear(128 / 255)
