import type { Remedy } from './defineRemedy'
import { bakeTransform } from './bakeTransform'
import { copyUvs } from './copyUvs'
import { dropAlpha } from './dropAlpha'
import { dropDegenerate } from './dropDegenerate'
import { dropStrays } from './dropStrays'
import { dropUnusedSlots } from './dropUnusedSlots'
import { flipGreen } from './flipGreen'
import { generateTangents } from './generateTangents'
import { invert } from './invert'
import { markNormal } from './markNormal'
import { movePivot } from './movePivot'
import { heightToNormal } from './normalFromHeight'
import { pointTo } from './pointTo'
import { recomputeNormals } from './recomputeNormals'
import { removeUvs } from './removeUvs'
import { rename } from './rename'
import { renormalise } from './renormalise'
import { reorderSlots } from './reorderSlots'
import { rescale } from './rescale'
import { resize } from './resize'
import { setAlpha } from './setAlpha'
import { setSpace } from './setSpace'
import { shrink } from './shrink'
import { exchangeUvs } from './exchangeUvs'
import { takeOut } from './takeOut'
import { turnAxes } from './turnAxes'
import { turnFacing } from './turnFacing'
import { weld } from './weld'

const list = [
  bakeTransform, copyUvs, dropAlpha, dropDegenerate, dropStrays, dropUnusedSlots, flipGreen, generateTangents, invert, markNormal, movePivot, heightToNormal,
  pointTo, recomputeNormals, removeUvs, rename, renormalise, reorderSlots, rescale, resize, setAlpha, setSpace, shrink, exchangeUvs, takeOut, turnAxes, turnFacing, weld,
] as unknown as Remedy[]

/** All remedies, sorted by id. */
export const remedies: readonly Remedy[] = [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
