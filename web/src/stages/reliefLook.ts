import { AdditiveBlending, type BufferGeometry, type MeshStandardMaterial, NormalBlending } from 'three'
import type { Detail } from '@stern-gate/contract'
import { DETAIL_UV, lookWith } from './lookShader'
import { pictureAt } from './stagePictures'

/** A detail map with the addresses of its pictures; null where it has none. */
export interface Detailed {
  detail: Detail
  texture: string | null
  normal: string | null
}

/** What a slot has by value that glTF, or the drawing library, has no place for. */
export interface AddedValues {
  /** Address of the height map, and metres between black and white. */
  height: { picture: string; depth: number } | null
  /** Share of the light that is scattered through, and its colour in linear RGB. */
  scatter: { share: number; colour: readonly [number, number, number] } | null
  /** What is blended is added to what stands behind. */
  adds: boolean
}

/** Lays a detail map over a worn surface, or takes it off. */
export function setDetail(
  worn: MeshStandardMaterial,
  geometry: BufferGeometry,
  detailed: Detailed | null,
): void {
  const colours = detailed?.texture ? pictureAt(detailed.texture, true) : null,
    normals = detailed?.normal ? pictureAt(detailed.normal) : null
  const uniforms = lookWith(worn, 'DETAIL', !!colours?.isThere || !!normals?.isThere)
  if (!uniforms || !detailed) return
  const { detail } = detailed
  uniforms.detailMap.value = colours?.texture ?? null
  uniforms.detailColour.value = colours?.isThere ? detail.colour : 0
  uniforms.detailNormals.value = normals?.texture ?? null
  uniforms.detailStrength.value = normals?.isThere ? detail.normal : 0
  uniforms.detailTiling.value = detail.tiling
  const uvs = geometry.getAttribute(detail.uv === 0 ? 'uv' : `uv${detail.uv}`)
  if (uvs) geometry.setAttribute(DETAIL_UV, uvs)
  else geometry.deleteAttribute(DETAIL_UV)
}

/** Sets relief by height, scattered light and additive blending of a worn surface; null: none of them. */
export function setAddedValues(worn: MeshStandardMaterial, values: AddedValues | null): void {
  worn.blending = values?.adds && worn.transparent ? AdditiveBlending : NormalBlending
  const { height = null, scatter = null } = values ?? {}
  const picture = height && pictureAt(height.picture)
  const relief = lookWith(worn, 'HEIGHT', !!picture?.isThere)
  if (relief && height && picture) {
    relief.heightMap.value = picture.texture
    relief.heightDepth.value = height.depth
  }
  const through = lookWith(worn, 'SCATTER', scatter !== null)
  if (through && scatter) {
    through.scatter.value = scatter.share
    through.scatterColour.value.setRGB(...scatter.colour)
  }
}
