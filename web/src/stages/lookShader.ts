import { Color, type MeshStandardMaterial, type Texture, Vector4 } from 'three'

/** What is added to a surface that glTF has no place for: tints by its mask and a second layer over it. */
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
}

/** Attributes of a geometry that the added look reads: how much of the layer a vertex has, and its UVs. */
export const LAYER_AMOUNT = 'layerAmount'
export const LAYER_UV = 'layerUv'

const VERTEX = `
attribute float ${LAYER_AMOUNT};
attribute vec2 ${LAYER_UV};
varying float vLayerAmount;
varying vec2 vLayerUv;
`
const FRAGMENT = `
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
varying float vLayerAmount;
varying vec2 vLayerUv;
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
if (layerRoughness >= 0.0) roughnessFactor = mix(roughnessFactor, layerRoughness, layerAmount);
`
const METALLIC = `#include <metalnessmap_fragment>
if (layerMetallic >= 0.0) metalnessFactor = mix(metalnessFactor, layerMetallic, layerAmount);
`

const uniformsOf = new WeakMap<MeshStandardMaterial, LookUniforms>()

/** The values of an added look; null where nothing was ever added to this surface. */
export const lookOf = (worn: MeshStandardMaterial): LookUniforms | null => uniformsOf.get(worn) ?? null

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
  }
  uniformsOf.set(worn, uniforms)
  worn.onBeforeCompile = (program) => {
    Object.assign(program.uniforms, uniforms)
    program.vertexShader =
      VERTEX +
      program.vertexShader.replace(
        '#include <uv_vertex>',
        `#include <uv_vertex>\nvLayerAmount = ${LAYER_AMOUNT};\nvLayerUv = ${LAYER_UV};\n`,
      )
    program.fragmentShader =
      FRAGMENT +
      program.fragmentShader
        .replace('#include <map_fragment>', COLOURED)
        .replace('#include <roughnessmap_fragment>', ROUGH)
        .replace('#include <metalnessmap_fragment>', METALLIC)
  }
  worn.customProgramCacheKey = () => 'with an added look'
  worn.needsUpdate = true
  return uniforms
}
