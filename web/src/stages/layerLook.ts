import { BufferAttribute, type BufferGeometry, type MeshStandardMaterial } from 'three'
import { layerModes, tintChannels, type SecondLayer } from '@stern-gate/contract'
import { addLook, LAYER_AMOUNT, LAYER_UV, lookOf, lookWith } from './lookShader'
import { pictureAt } from './stagePictures'

/** A second layer with the addresses of its pictures. */
export interface Layered {
  layer: SecondLayer
  /** Of the slot's mask; null where it has none. */
  mask: string | null
  /** Of the layer's own textures; null where it has none. */
  texture: string | null
  normal: string | null
  roughness: string | null
}

/** Lays a second layer over a worn surface, or takes it off; one that never had one stays as it is. */
export function setLayer(
  worn: MeshStandardMaterial,
  geometry: BufferGeometry,
  layered: Layered | null,
): void {
  if (!layered) {
    const there = lookOf(worn)
    if (there) there.layerOn.value = 0
    return
  }
  const { layer, mask, texture, normal, roughness } = layered,
    { by } = layer,
    uniforms = addLook(worn)
  const maskPicture = by.kind === 'mask' && mask ? pictureAt(mask) : null,
    own = texture ? pictureAt(texture, true) : null
  // Without its mask the layer is nowhere
  uniforms.layerOn.value = by.kind === 'mask' && !maskPicture?.isThere ? 0 : 1
  uniforms.layerBy.value = by.kind === 'vertex' ? 0 : by.kind === 'mask' ? 1 : by.axis === 'u' ? 2 : 3
  uniforms.layerMask.value = maskPicture?.texture ?? null
  if (by.kind === 'mask')
    tintChannels.forEach((channel, k) =>
      uniforms.layerChannel.value.setComponent(k, channel === by.channel ? 1 : 0),
    )
  if (by.kind === 'ramp') uniforms.layerRamp.value = [by.from, by.to]
  uniforms.layerInverted.value = layer.inverted ? 1 : 0
  uniforms.layerStrength.value = layer.strength
  uniforms.layerMode.value = layerModes.indexOf(layer.mode)
  uniforms.layerColour.value.setRGB(...layer.colour)
  uniforms.layerRoughness.value = layer.roughness ?? -1
  uniforms.layerMetallic.value = layer.metallic ?? -1
  uniforms.layerMap.value = own?.texture ?? null
  uniforms.layerHasMap.value = own?.isThere ? 1 : 0
  uniforms.layerTiling.value = layer.tiling
  setOwnMaps(worn, layer, normal, roughness)
  giveAttributes(geometry, layer)
}

function setOwnMaps(
  worn: MeshStandardMaterial,
  layer: SecondLayer,
  normal: string | null,
  roughness: string | null,
): void {
  const normals = normal ? pictureAt(normal) : null,
    rough = roughness ? pictureAt(roughness) : null
  const bent = lookWith(worn, 'LAYER_NORMALS', !!normals?.isThere)
  if (bent) {
    bent.layerNormals.value = normals!.texture
    bent.layerNormalStrength.value = layer.normal
  }
  const ranged = lookWith(worn, 'LAYER_ROUGHNESS', !!rough?.isThere)
  if (!ranged) return
  ranged.layerRoughnessMap.value = rough!.texture
  tintChannels.forEach((channel, k) =>
    ranged.layerRoughnessChannel.value.setComponent(k, channel === layer.roughnessChannel ? 1 : 0),
  )
  ranged.layerRoughnessRange.value = [layer.roughness ?? 0, layer.roughnessMost ?? 1]
}

/** What of a geometry the added look reads now; painted amounts stay as they are while they are being painted. */
function giveAttributes(geometry: BufferGeometry, { by, uv }: SecondLayer): void {
  const uvs = geometry.getAttribute(uv === 0 ? 'uv' : `uv${uv}`)
  if (uvs) geometry.setAttribute(LAYER_UV, uvs)
  else geometry.deleteAttribute(LAYER_UV)
  if (by.kind !== 'vertex' || geometry.userData['painting']) return
  const source = `${by.set} ${by.channel}`
  if (geometry.userData['layerSource'] === source) return
  geometry.userData['layerSource'] = source
  geometry.setAttribute(
    LAYER_AMOUNT,
    new BufferAttribute(amountsOf(geometry, by.set, tintChannels.indexOf(by.channel)), 1),
  )
}

/** A channel of the vertex colours of a geometry, 0 to 1; 0 where it has none. */
export function amountsOf(geometry: BufferGeometry, set: number, channel: number): Float32Array {
  const colours = geometry.getAttribute(set === 0 ? 'color' : `color_${set}`),
    count = geometry.getAttribute('position').count
  const amounts = new Float32Array(count)
  if (!colours || channel >= colours.itemSize) return amounts
  for (let v = 0; v < count; v++) amounts[v] = colours.getComponent(v, channel)
  return amounts
}
