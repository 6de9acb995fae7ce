import type { Rule } from './defineRule'
import { convex as collisionConvex } from './collision/convex'
import { corners as collisionCorners } from './collision/corners'
import { fitAir as collisionFitAir } from './collision/fitAir'
import { hasSurface as collisionHasSurface } from './collision/hasSurface'
import { scale as collisionScale } from './collision/scale'
import { fitOut as collisionFitOut } from './collision/fitOut'
import { missing as collisionMissing } from './collision/missing'
import { alphaUnused as colourAlphaUnused } from './colour/alphaUnused'
import { baseRange as colourBaseRange } from './colour/baseRange'
import { channelLayout as colourChannelLayout } from './colour/channelLayout'
import { flat as colourFlat } from './colour/flat'
import { glossAsRoughness as colourGlossAsRoughness } from './colour/glossAsRoughness'
import { metalBetween as colourMetalBetween } from './colour/metalBetween'
import { normalFlag as colourNormalFlag } from './colour/normalFlag'
import { normalGreen as colourNormalGreen } from './colour/normalGreen'
import { normalLength as colourNormalLength } from './colour/normalLength'
import { notANormal as colourNotANormal } from './colour/notANormal'
import { padding as colourPadding } from './colour/padding'
import { profile as colourProfile } from './colour/profile'
import { space as colourSpace } from './colour/space'
import { specularSet as colourSpecularSet } from './colour/specularSet'
import { assetMemory as compressionAssetMemory } from './compression/assetMemory'
import { blockMultiple as compressionBlockMultiple } from './compression/blockMultiple'
import { emptyResolution as compressionEmptyResolution } from './compression/emptyResolution'
import { error as compressionError } from './compression/error'
import { format as compressionFormat } from './compression/format'
import { inputLimit as compressionInputLimit } from './compression/inputLimit'
import { tileSetAllowed as compressionTileSetAllowed } from './compression/tileSetAllowed'
import { largestSide as compressionLargestSide } from './compression/largestSide'
import { mips as compressionMips } from './compression/mips'
import { size as compressionSize } from './compression/size'
import { duplicateContent as filesDuplicateContent } from './files/duplicateContent'
import { duplicateMaterial as filesDuplicateMaterial } from './files/duplicateMaterial'
import { embeddedTexture as filesEmbeddedTexture } from './files/embeddedTexture'
import { folder as filesFolder } from './files/folder'
import { kindMatchesExtension as filesKindMatchesExtension } from './files/kindMatchesExtension'
import { lessThanBefore as filesLessThanBefore } from './files/lessThanBefore'
import { missingReference as filesMissingReference } from './files/missingReference'
import { origin as filesOrigin } from './files/origin'
import { readable as filesReadable } from './files/readable'
import { standard as filesStandard } from './files/standard'
import { referenceFigure as filesReferenceFigure } from './files/referenceFigure'
import { severalThings as filesSeveralThings } from './files/severalThings'
import { strays as filesStrays } from './files/strays'
import { tileGap as filesTileGap } from './files/tileGap'
import { unreferencedTexture as filesUnreferencedTexture } from './files/unreferencedTexture'
import { unsafeReference as filesUnsafeReference } from './files/unsafeReference'
import { bounds as lodsBounds } from './lods/bounds'
import { missing as lodsMissing } from './lods/missing'
import { channels as lodsChannels } from './lods/channels'
import { cull as lodsCull } from './lods/cull'
import { order as lodsOrder } from './lods/order'
import { switchRule as lodsSwitch } from './lods/switch'
import { slots as lodsSlots } from './lods/slots'
import { step as lodsStep } from './lods/step'
import { clipLoop as meshClipLoop } from './mesh/clipLoop'
import { cutOtherwise as meshCutOtherwise } from './mesh/cutOtherwise'
import { degenerate as meshDegenerate } from './mesh/degenerate'
import { doubledPoints as meshDoubledPoints } from './mesh/doubledPoints'
import { drawOrder as meshDrawOrder } from './mesh/drawOrder'
import { halfModel as meshHalfModel } from './mesh/halfModel'
import { holes as meshHoles } from './mesh/holes'
import { idleBones as meshIdleBones } from './mesh/idleBones'
import { influences as meshInfluences } from './mesh/influences'
import { insideOut as meshInsideOut } from './mesh/insideOut'
import { loosePieces as meshLoosePieces } from './mesh/loosePieces'
import { nonManifold as meshNonManifold } from './mesh/nonManifold'
import { normals as meshNormals } from './mesh/normals'
import { notFinite as meshNotFinite } from './mesh/notFinite'
import { tangents as meshTangents } from './mesh/tangents'
import { triangleBudget as meshTriangleBudget } from './mesh/triangleBudget'
import { vertexColour as meshVertexColour } from './mesh/vertexColour'
import { vertexRatio as meshVertexRatio } from './mesh/vertexRatio'
import { agree as namesAgree } from './names/agree'
import { caseCollision as namesCaseCollision } from './names/caseCollision'
import { characters as namesCharacters } from './names/characters'
import { meaningless as namesMeaningless } from './names/meaningless'
import { pattern as namesPattern } from './names/pattern'
import { roleKnown as namesRoleKnown } from './names/roleKnown'
import { axes as scaleAxes } from './scale/axes'
import { expectedSize as scaleExpectedSize } from './scale/expectedSize'
import { farFromOrigin as scaleFarFromOrigin } from './scale/farFromOrigin'
import { mirrored as scaleMirrored } from './scale/mirrored'
import { movedSinceLastVersion as scaleMovedSinceLastVersion } from './scale/movedSinceLastVersion'
import { pivot as scalePivot } from './scale/pivot'
import { unbakedTransform as scaleUnbakedTransform } from './scale/unbakedTransform'
import { alphaMode as slotsAlphaMode } from './slots/alphaMode'
import { carryOver as slotsCarryOver } from './slots/carryOver'
import { count as slotsCount } from './slots/count'
import { decalGap as slotsDecalGap } from './slots/decalGap'
import { empty as slotsEmpty } from './slots/empty'
import { layerSource as slotsLayerSource } from './slots/layerSource'
import { missingInput as slotsMissingInput } from './slots/missingInput'
import { wrongInput as slotsWrongInput } from './slots/wrongInput'
import { order as slotsOrder } from './slots/order'
import { sameLook as slotsSameLook } from './slots/sameLook'
import { tintChannels as slotsTintChannels } from './slots/tintChannels'
import { variantsComplete as slotsVariantsComplete } from './slots/variantsComplete'
import { tiny as slotsTiny } from './slots/tiny'
import { unused as slotsUnused } from './slots/unused'
import { count as uvsCount } from './uvs/count'
import { degenerate as uvsDegenerate } from './uvs/degenerate'
import { density as uvsDensity } from './uvs/density'
import { lightmapGap as uvsLightmapGap } from './uvs/lightmapGap'
import { mirrored as uvsMirrored } from './uvs/mirrored'
import { missing as uvsMissing } from './uvs/missing'
import { outside as uvsOutside } from './uvs/outside'
import { overlap as uvsOverlap } from './uvs/overlap'
import { purpose as uvsPurpose } from './uvs/purpose'

const list = [
  collisionConvex,
  collisionCorners,
  collisionFitOut,
  collisionFitAir,
  collisionScale,
  collisionHasSurface,
  collisionMissing,
  colourAlphaUnused,
  colourBaseRange,
  colourChannelLayout,
  colourFlat,
  colourGlossAsRoughness,
  colourMetalBetween,
  colourNormalFlag,
  colourNormalGreen,
  colourNormalLength,
  colourNotANormal,
  colourPadding,
  colourProfile,
  colourSpace,
  colourSpecularSet,
  compressionAssetMemory,
  compressionBlockMultiple,
  compressionEmptyResolution,
  compressionError,
  compressionLargestSide,
  compressionFormat,
  compressionInputLimit,
  compressionTileSetAllowed,
  compressionMips,
  compressionSize,
  filesDuplicateContent,
  filesDuplicateMaterial,
  filesEmbeddedTexture,
  filesFolder,
  filesKindMatchesExtension,
  filesMissingReference,
  filesReadable,
  filesStandard,
  filesLessThanBefore,
  filesOrigin,
  filesSeveralThings,
  filesReferenceFigure,
  filesStrays,
  filesTileGap,
  filesUnreferencedTexture,
  filesUnsafeReference,
  lodsBounds,
  lodsMissing,
  lodsSlots,
  lodsChannels,
  lodsOrder,
  lodsSwitch,
  lodsCull,
  lodsStep,
  meshClipLoop,
  meshCutOtherwise,
  meshDegenerate,
  meshDoubledPoints,
  meshDrawOrder,
  meshHalfModel,
  meshHoles,
  meshIdleBones,
  meshInfluences,
  meshInsideOut,
  meshLoosePieces,
  meshNonManifold,
  meshNormals,
  meshNotFinite,
  meshTangents,
  meshTriangleBudget,
  meshVertexColour,
  meshVertexRatio,
  namesAgree,
  namesCaseCollision,
  namesCharacters,
  namesMeaningless,
  namesPattern,
  namesRoleKnown,
  scaleAxes,
  scaleExpectedSize,
  scaleFarFromOrigin,
  scaleMirrored,
  scaleMovedSinceLastVersion,
  scalePivot,
  scaleUnbakedTransform,
  slotsAlphaMode,
  slotsCarryOver,
  slotsCount,
  slotsDecalGap,
  slotsEmpty,
  slotsLayerSource,
  slotsMissingInput,
  slotsWrongInput,
  slotsOrder,
  slotsSameLook,
  slotsTintChannels,
  slotsTiny,
  slotsVariantsComplete,
  slotsUnused,
  uvsCount,
  uvsDegenerate,
  uvsDensity,
  uvsLightmapGap,
  uvsMirrored,
  uvsMissing,
  uvsOutside,
  uvsOverlap,
  uvsPurpose,
] as unknown as Rule[]

/** All rules, sorted by id. */
export const rules: readonly Rule[] = [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
