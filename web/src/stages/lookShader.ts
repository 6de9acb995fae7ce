import { Color, type MeshStandardMaterial, type Texture, Vector4 } from 'three'
import { DETAIL_GREY } from '@stern-gate/core/surfaces'

/** Parts of the added look, most with pictures of their own: a surface is drawn by those that it needs. */
export const lookParts = ['LAYER_NORMALS', 'LAYER_ROUGHNESS', 'DETAIL', 'HEIGHT', 'SCATTER'] as const
export type LookPart = (typeof lookParts)[number]

/**
 * What is added to a surface that glTF has no place for, or the drawing library none: tints by its mask, a detail map,
 * a second layer, relief by height, scattered light.
 */
export interface LookUniforms {
  tintMask: { value: Texture | null }
  tintStrengths: { value: Vector4 }
  tintColours: { value: Color[] }
  layerOn: { value: number }
  /** 0: vertex colours, 1: the mask, 2: a ramp along u, 3: along v. */
  layerBy: { value: number }
  layerMask: { value: Texture | null }
  layerChannel: { value: Vector4 }
  layerRamp: { value: [number, number] }
  layerInverted: { value: number }
  layerStrength: { value: number }
  /** 0: mix, 1: multiply, 2: add. */
  layerMode: { value: number }
  layerColour: { value: Color }
  /** Below 0: that of the surface below. */
  layerRoughness: { value: number }
  layerMetallic: { value: number }
  layerMap: { value: Texture | null }
  layerHasMap: { value: number }
  layerTiling: { value: number }
  layerNormals: { value: Texture | null }
  layerNormalStrength: { value: number }
  layerRoughnessMap: { value: Texture | null }
  layerRoughnessChannel: { value: Vector4 }
  /** Least and most of the roughness map. */
  layerRoughnessRange: { value: [number, number] }
  detailMap: { value: Texture | null }
  detailNormals: { value: Texture | null }
  detailTiling: { value: number }
  /** How strongly its colour counts; 0: it has none. */
  detailColour: { value: number }
  /** Of its normals; 0: it has none. */
  detailStrength: { value: number }
  heightMap: { value: Texture | null }
  /** Metres between black and white. */
  heightDepth: { value: number }
  scatter: { value: number }
  scatterColour: { value: Color }
}

/** Attributes of a geometry that the added look reads: how much of the layer a vertex has, and its UVs. */
export const LAYER_AMOUNT = 'layerAmount'
export const LAYER_UV = 'layerUv'
export const DETAIL_UV = 'detailUv'

const VARYINGS = `varying float vLayerAmount;
varying vec2 vLayerUv;
varying vec2 vDetailUv;
varying vec2 vFirstUv;
`
const VERTEX = `
attribute float ${LAYER_AMOUNT};
attribute vec2 ${LAYER_UV};
attribute vec2 ${DETAIL_UV};
${VARYINGS}`
const FRAGMENT = `
${VARYINGS}
uniform sampler2D tintMask;
uniform vec4 tintStrengths;
uniform vec3 tintColours[4];
uniform float layerOn;
uniform int layerBy;
uniform sampler2D layerMask;
uniform vec4 layerChannel;
uniform vec2 layerRamp;
uniform float layerInverted;
uniform float layerStrength;
uniform int layerMode;
uniform vec3 layerColour;
uniform float layerRoughness;
uniform float layerMetallic;
uniform sampler2D layerMap;
uniform float layerHasMap;
uniform float layerTiling;
#ifdef LOOK_LAYER_NORMALS
  uniform sampler2D layerNormals;
  uniform float layerNormalStrength;
#endif
#ifdef LOOK_LAYER_ROUGHNESS
  uniform sampler2D layerRoughnessMap;
  uniform vec4 layerRoughnessChannel;
  uniform vec2 layerRoughnessRange;
#endif
#ifdef LOOK_DETAIL
  uniform sampler2D detailMap;
  uniform sampler2D detailNormals;
  uniform float detailTiling;
  uniform float detailColour;
  uniform float detailStrength;
#endif
#ifdef LOOK_HEIGHT
  uniform sampler2D heightMap;
  uniform float heightDepth;
#endif
uniform float scatter;
uniform vec3 scatterColour;
// A vector of a normal map in the frame that the surface and its UVs make at this place; V goes down, as in glTF
vec3 lookBent(vec3 surface, vec2 uv, vec4 texel, float strength, float front) {
  vec3 along = dFdx(-vViewPosition), up = dFdy(-vViewPosition);
  vec2 alongUv = dFdx(uv), upUv = dFdy(uv);
  vec3 upAcross = cross(up, surface), alongAcross = cross(surface, along);
  vec3 tangent = upAcross * alongUv.x + alongAcross * upUv.x;
  vec3 bitangent = upAcross * alongUv.y + alongAcross * upUv.y;
  float longest = max(dot(tangent, tangent), dot(bitangent, bitangent));
  float scale = longest == 0.0 ? 0.0 : inversesqrt(longest);
  vec3 v = texel.xyz * 2.0 - 1.0;
  return normalize(tangent * (scale * front * v.x * strength) - bitangent * (scale * front * v.y * strength) + surface * v.z);
}
`
/**
 * The base colour is multiplied by the colour of each channel of the mask, in linear light, as strongly as mask and
 * strength say; the mask lies as the base colour does. Then the second layer lies over it.
 */
const COLOURED = `#include <map_fragment>
float layerAmount = vLayerAmount;
#ifdef USE_MAP
  vec4 tintAmounts = texture2D(tintMask, vMapUv) * tintStrengths;
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[0], tintAmounts.r);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[1], tintAmounts.g);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[2], tintAmounts.b);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[3], tintAmounts.a);
  if (layerBy == 1) layerAmount = dot(texture2D(layerMask, vMapUv), layerChannel);
#else
  if (layerBy == 1) layerAmount = dot(texture2D(layerMask, vLayerUv), layerChannel);
#endif
#ifdef LOOK_DETAIL
  // The grey of 128 leaves the base colour as it is
  diffuseColor.rgb *= mix(vec3(1.0), texture2D(detailMap, vDetailUv * detailTiling).rgb / DETAIL_GREY, detailColour);
#endif
if (layerBy >= 2) {
  float along = layerBy == 2 ? vLayerUv.x : vLayerUv.y;
  float width = layerRamp.y - layerRamp.x;
  layerAmount = abs(width) < 1e-6 ? step(layerRamp.x, along) : clamp((along - layerRamp.x) / width, 0.0, 1.0);
}
layerAmount = layerOn * layerStrength * mix(layerAmount, 1.0 - layerAmount, layerInverted);
vec3 layerOwn = layerColour * mix(vec3(1.0), texture2D(layerMap, vLayerUv * layerTiling).rgb, layerHasMap);
if (layerMode == 0) diffuseColor.rgb = mix(diffuseColor.rgb, layerOwn, layerAmount);
else if (layerMode == 1) diffuseColor.rgb *= mix(vec3(1.0), layerOwn, layerAmount);
else diffuseColor.rgb += layerOwn * layerAmount;
`
const ROUGH = `#include <roughnessmap_fragment>
#ifdef LOOK_LAYER_ROUGHNESS
  float layerRough = mix(
    layerRoughnessRange.x, layerRoughnessRange.y,
    dot(texture2D(layerRoughnessMap, vLayerUv * layerTiling), layerRoughnessChannel));
  roughnessFactor = mix(roughnessFactor, layerRough, layerAmount);
#else
  if (layerRoughness >= 0.0) roughnessFactor = mix(roughnessFactor, layerRoughness, layerAmount);
#endif
`
const METALLIC = `#include <metalnessmap_fragment>
if (layerMetallic >= 0.0) metalnessFactor = mix(metalnessFactor, layerMetallic, layerAmount);
`

/**
 * Relief: the height map leans the surface as its slope says (Mikkelsen, “Bump Mapping Unparametrized Surfaces on the
 * GPU”, 2010), without moving it; the detail lies on that, the layer covers both.
 */
const BENT = `#include <normal_fragment_maps>
#ifdef DOUBLE_SIDED
  float lookFront = gl_FrontFacing ? 1.0 : -1.0;
#else
  float lookFront = 1.0;
#endif
#ifdef LOOK_HEIGHT
  {
    #ifdef USE_MAP
      vec2 heightUv = vMapUv;
    #else
      vec2 heightUv = vFirstUv;
    #endif
    float height = texture2D(heightMap, heightUv).r;
    vec2 rise = heightDepth * vec2(
      texture2D(heightMap, heightUv + dFdx(heightUv)).r - height,
      texture2D(heightMap, heightUv + dFdy(heightUv)).r - height);
    vec3 along = dFdx(-vViewPosition), up = dFdy(-vViewPosition);
    vec3 first = cross(up, normal), second = cross(normal, along);
    float turned = dot(along, first) * lookFront;
    normal = normalize(abs(turned) * normal - sign(turned) * (rise.x * first + rise.y * second));
  }
#endif
#ifdef LOOK_DETAIL
  if (detailStrength > 0.0)
    normal = lookBent(normal, vDetailUv, texture2D(detailNormals, vDetailUv * detailTiling), detailStrength, lookFront);
#endif
#ifdef LOOK_LAYER_NORMALS
  normal = normalize(mix(
    normal,
    lookBent(nonPerturbedNormal, vLayerUv, texture2D(layerNormals, vLayerUv * layerTiling), layerNormalStrength, lookFront),
    layerAmount));
#endif
`
/** Light from behind that is scattered through in all directions, as KHR_materials_diffuse_transmission says. */
const SCATTERED = `#include <lights_fragment_end>
#ifdef LOOK_SCATTER
{
  vec3 through = scatter * (1.0 - metalnessFactor) * scatterColour * RECIPROCAL_PI;
  reflectedLight.directDiffuse *= 1.0 - scatter;
  reflectedLight.indirectDiffuse *= 1.0 - scatter;
  #if NUM_DIR_LIGHTS > 0
    for (int i = 0; i < NUM_DIR_LIGHTS; i++)
      reflectedLight.directDiffuse +=
        through * directionalLights[i].color * max(dot(-normal, directionalLights[i].direction), 0.0);
  #endif
  reflectedLight.indirectDiffuse += through * ambientLightColor;
  #if defined(USE_ENVMAP) && defined(STANDARD) && defined(ENVMAP_TYPE_CUBE_UV)
    reflectedLight.indirectDiffuse += through * getIBLIrradiance(-normal);
  #endif
}
#endif
`

const uniformsOf = new WeakMap<MeshStandardMaterial, LookUniforms>()

/** The values of an added look; null where nothing was ever added to this surface. */
export const lookOf = (worn: MeshStandardMaterial): LookUniforms | null => uniformsOf.get(worn) ?? null

const partsOf = new WeakMap<MeshStandardMaterial, Set<LookPart>>()

/** Puts a part into the added look of a surface, or takes it out. Gives the values of the look; null without the part. */
export function lookWith(worn: MeshStandardMaterial, part: LookPart, isOn: boolean): LookUniforms | null {
  if (!isOn && !lookOf(worn)) return null
  const uniforms = addLook(worn),
    parts = partsOf.get(worn)!
  if (parts.has(part) !== isOn) {
    if (isOn) parts.add(part)
    else parts.delete(part)
    worn.needsUpdate = true
  }
  return isOn ? uniforms : null
}

/** The values of the added look of a surface, which gets one that changes nothing where it has none. */
export function addLook(worn: MeshStandardMaterial): LookUniforms {
  const there = uniformsOf.get(worn)
  if (there) return there
  const uniforms: LookUniforms = {
    tintMask: { value: null },
    tintStrengths: { value: new Vector4() },
    tintColours: { value: [0, 1, 2, 3].map(() => new Color(1, 1, 1)) },
    layerOn: { value: 0 },
    layerBy: { value: 0 },
    layerMask: { value: null },
    layerChannel: { value: new Vector4(1, 0, 0, 0) },
    layerRamp: { value: [0, 1] },
    layerInverted: { value: 0 },
    layerStrength: { value: 1 },
    layerMode: { value: 0 },
    layerColour: { value: new Color(1, 1, 1) },
    layerRoughness: { value: -1 },
    layerMetallic: { value: -1 },
    layerMap: { value: null },
    layerHasMap: { value: 0 },
    layerTiling: { value: 1 },
    layerNormals: { value: null },
    layerNormalStrength: { value: 0 },
    layerRoughnessMap: { value: null },
    layerRoughnessChannel: { value: new Vector4(0, 1, 0, 0) },
    layerRoughnessRange: { value: [0, 1] },
    detailMap: { value: null },
    detailNormals: { value: null },
    detailTiling: { value: 1 },
    detailColour: { value: 0 },
    detailStrength: { value: 0 },
    heightMap: { value: null },
    heightDepth: { value: 0 },
    scatter: { value: 0 },
    scatterColour: { value: new Color(1, 1, 1) },
  }
  uniformsOf.set(worn, uniforms)
  const parts = new Set<LookPart>()
  partsOf.set(worn, parts)
  worn.onBeforeCompile = (program) => {
    Object.assign(program.uniforms, uniforms)
    program.vertexShader =
      VERTEX +
      program.vertexShader.replace(
        '#include <uv_vertex>',
        `#include <uv_vertex>\nvLayerAmount = ${LAYER_AMOUNT};\nvLayerUv = ${LAYER_UV};\nvDetailUv = ${DETAIL_UV};\nvFirstUv = uv;\n`,
      )
    const defined = [...parts].map((part) => `#define LOOK_${part}\n`).join('')
    program.fragmentShader =
      defined +
      `#define DETAIL_GREY ${DETAIL_GREY.toFixed(6)}\n` +
      program.fragmentShader
        .replace('#include <normal_pars_fragment>', `#include <normal_pars_fragment>\n${FRAGMENT}`)
        .replace('#include <map_fragment>', COLOURED)
        .replace('#include <roughnessmap_fragment>', ROUGH)
        .replace('#include <metalnessmap_fragment>', METALLIC)
        .replace('#include <normal_fragment_maps>', BENT)
        .replace('#include <lights_fragment_end>', SCATTERED)
  }
  worn.customProgramCacheKey = () => `with an added look ${[...parts].sort().join(' ')}`
  worn.needsUpdate = true
  return uniforms
}
