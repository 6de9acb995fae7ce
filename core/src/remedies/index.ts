import type { Remedy } from './defineRemedy'
import { bakeTransform } from './bakeTransform'
import { copyUvs } from './copyUvs'
import { dropAlpha } from './dropAlpha'
import { dropColours } from './dropColours'
import { dropDegenerate } from './dropDegenerate'
import { dropStrays } from './dropStrays'
import { dropCrumbs, dropDuplicates } from './dropTriangles'
import { dropUnusedSlots } from './dropUnusedSlots'
import { exchangeUvs } from './exchangeUvs'
import { fillHoles } from './fillHoles'
import { flipGreen } from './flipGreen'
import { generateTangents } from './generateTangents'
import { intake } from './intake'
import { invert } from './invert'
import { layOutUvs } from './layOutUvs'
import { limitInfluences } from './limitInfluences'
import { markNormal } from './markNormal'
import { mergeSlots } from './mergeSlots'
import { movePivot } from './movePivot'
import { heightToNormal } from './normalFromHeight'
import { place } from './place'
import { pointTo } from './pointTo'
import { recomputeNormals } from './recomputeNormals'
import { reduceTriangles } from './reduceTriangles'
import { removeUvs } from './removeUvs'
import { rename } from './rename'
import { renormalise } from './renormalise'
import { reorderSlots } from './reorderSlots'
import { reorderTriangles } from './reorderTriangles'
import { rescale } from './rescale'
import { resize } from './resize'
import { setAlpha } from './setAlpha'
import { setLoop } from './setLoop'
import { setSpace } from './setSpace'
import { shift } from './shift'
import { shrink } from './shrink'
import { specularSetToMetal } from './specularToMetal'
import { takeOut } from './takeOut'
import { turnAxes } from './turnAxes'
import { turnFacing } from './turnFacing'
import { weld } from './weld'

const list = [
  bakeTransform,
  copyUvs,
  dropAlpha,
  dropColours,
  dropDegenerate,
  dropStrays,
  dropCrumbs,
  dropDuplicates,
  dropUnusedSlots,
  exchangeUvs,
  fillHoles,
  flipGreen,
  generateTangents,
  intake,
  invert,
  layOutUvs,
  limitInfluences,
  markNormal,
  mergeSlots,
  movePivot,
  heightToNormal,
  place,
  pointTo,
  recomputeNormals,
  reduceTriangles,
  removeUvs,
  rename,
  renormalise,
  reorderSlots,
  reorderTriangles,
  rescale,
  resize,
  setAlpha,
  setLoop,
  setSpace,
  shift,
  shrink,
  specularSetToMetal,
  takeOut,
  turnAxes,
  turnFacing,
  weld,
] as unknown as Remedy[]

/** All remedies, sorted by id. */
export const remedies: readonly Remedy[] = [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
