import type { RemedyOptions } from '@stern-gate/contract'
import type { Remedy } from './defineRemedy'
import { alignLevel } from './lods/align'
import { bakeLook } from './slots/bakeLook'
import { bakeTransform } from './scale/bakeTransform'
import { copyUvs } from './uvs/copyUvs'
import { dropAlpha } from './colour/dropAlpha'
import { dropColours } from './mesh/dropColours'
import { dropDegenerate } from './mesh/dropDegenerate'
import { dropIdleBones } from './mesh/dropIdleBones'
import { dropNode } from './files/dropNode'
import { dropStrays } from './files/dropStrays'
import { ownFiles } from './files/ownFiles'
import { dropCrumbs, dropDuplicates } from './mesh/dropTriangles'
import { feed } from './slots/feed'
import { dropUnusedSlots } from './slots/dropUnusedSlots'
import { exchangeUvs } from './uvs/exchangeUvs'
import { fillHoles } from './mesh/fillHoles'
import { flipGreen } from './colour/flipGreen'
import { generateTangents } from './mesh/generateTangents'
import { intake } from './files/intake'
import { invert } from './colour/invert'
import { layOutUvs } from './uvs/layOutUvs'
import { growIslands } from './colour/growIslands'
import { liftDecal } from './slots/liftDecal'
import { limitInfluences } from './mesh/limitInfluences'
import { addDetail, alphaFrom, eightBits, normalStrength, rebuildBlue, setRange } from './colour/mapSteps'
import { makeCollision } from './collision/make'
import { makeCard } from './lods/makeCard'
import { giveLevel } from './lods/giveLevel'
import { makeLevels } from './lods/make'
import { mergeSlots } from './slots/mergeSlots'
import { mirrorHalf } from './mesh/mirrorHalf'
import { keepPivot } from './scale/keepPivot'
import { movePivot } from './scale/movePivot'
import { pivotAtPoints } from './scale/pivotAtPoints'
import { normalToHeight } from './colour/heightFromNormal'
import { metalSetToSpecular } from './colour/metalToSpecular'
import { heightToNormal } from './colour/normalFromHeight'
import { objectToTangent } from './colour/objectToTangent'
import { place } from './files/place'
import { paintColours } from './mesh/paintColours'
import { partOfItsOwn } from './slots/partOfItsOwn'
import { placeTexture } from './slots/placeTexture'
import { pointTo } from './files/pointTo'
import { recomputeNormals } from './mesh/recomputeNormals'
import { reduceTriangles } from './mesh/reduceTriangles'
import { removeUvs } from './uvs/removeUvs'
import { rename } from './names/rename'
import { renormalise } from './colour/renormalise'
import { reorderSlots } from './slots/reorderSlots'
import { reorderTriangles } from './mesh/reorderTriangles'
import { repack } from './colour/repack'
import { rescale } from './scale/rescale'
import { resize } from './compression/resize'
import { detail } from './slots/detail'
import { secondLayer } from './slots/secondLayer'
import { setAlpha } from './slots/setAlpha'
import { setLoop } from './mesh/setLoop'
import { setRole } from './colour/setRole'
import { setPurpose } from './uvs/setPurpose'
import { setSpace } from './colour/setSpace'
import { variant } from './slots/variant'
import { setSwitches } from './lods/setSwitches'
import { stripCollision } from './collision/strip'
import { tint } from './slots/tint'
import { shift } from './scale/shift'
import { shrink } from './colour/shrink'
import { specularSetToMetal } from './colour/specularToMetal'
import { surface } from './slots/surface'
import { takeOut } from './files/takeOut'
import { turnAxes } from './scale/turnAxes'
import { turnFacing } from './mesh/turnFacing'
import { writeSurfaces } from './slots/writeSurfaces'
import { weld } from './mesh/weld'

const list = [
  addDetail,
  alphaFrom,
  eightBits,
  normalStrength,
  rebuildBlue,
  setRange,
  bakeLook,
  bakeTransform,
  copyUvs,
  dropAlpha,
  dropColours,
  dropDegenerate,
  dropStrays,
  ownFiles,
  dropNode,
  alignLevel,
  dropIdleBones,
  dropCrumbs,
  dropDuplicates,
  dropUnusedSlots,
  exchangeUvs,
  feed,
  fillHoles,
  flipGreen,
  generateTangents,
  intake,
  invert,
  layOutUvs,
  liftDecal,
  limitInfluences,
  makeCollision,
  makeCard,
  giveLevel,
  makeLevels,
  mergeSlots,
  mirrorHalf,
  keepPivot,
  movePivot,
  pivotAtPoints,
  heightToNormal,
  normalToHeight,
  metalSetToSpecular,
  objectToTangent,
  place,
  placeTexture,
  pointTo,
  recomputeNormals,
  reduceTriangles,
  removeUvs,
  growIslands,
  paintColours,
  partOfItsOwn,
  rename,
  renormalise,
  reorderSlots,
  reorderTriangles,
  repack,
  rescale,
  resize,
  detail,
  secondLayer,
  setAlpha,
  setLoop,
  setRole,
  setPurpose,
  setSpace,
  shift,
  shrink,
  specularSetToMetal,
  surface,
  tint,
  stripCollision,
  setSwitches,
  variant,
  takeOut,
  turnAxes,
  turnFacing,
  weld,
  writeSurfaces,
] as unknown as Remedy[]

/** All remedies, sorted by id. */
export const remedies: readonly Remedy[] = [...list].sort((a, b) => (a.id < b.id ? -1 : 1))

const byId = new Map(remedies.map((r) => [r.id, r]))
export const findRemedy = (id: string): Remedy | undefined => byId.get(id)

/** Whether a step with these options is safe (see Remedy.safe). */
export function isSafe(id: string, options: RemedyOptions): boolean {
  const remedy = byId.get(id)
  if (!remedy?.safe) return false
  if (remedy.safe === true) return true
  const parsed = remedy.options.safeParse(options)
  return parsed.success && remedy.safe(parsed.data)
}

/** Remedies of which some or all steps are safe. */
export const safeRemedies: readonly Remedy[] = remedies.filter((r) => r.safe !== undefined)
