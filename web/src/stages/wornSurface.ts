import {
  type BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  type Material,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  type Texture,
} from 'three'
import type { RemedyOptions, SurfaceSetting } from '@stern-gate/contract'
import { type Layered, setLayer } from './layerLook'
import { type Tinted, setTint } from './maskTint'
import { type AddedValues, type Detailed, setAddedValues, setDetail } from './reliefLook'

/** What a slot is tried with before it is kept: options of the two steps that set it, textures by input. */
export interface TriedSurface {
  values: RemedyOptions
  places: Readonly<Record<string, RemedyOptions>>
  /** Options of the step that tints it by its mask. */
  tint?: RemedyOptions
  /** The mask and the colours that it is tinted with; null: none. */
  tinted?: Tinted | null
  /** Options of the step that lays a second layer over it. */
  layer?: RemedyOptions
  /** The second layer that it has with them; null: none. */
  layered?: Layered | null
  /** Options of the step that lays a detail map over it. */
  detail?: RemedyOptions
  /** The detail map that it has with them; null: none. */
  detailed?: Detailed | null
  /** Values that the file has no place for; null: none. */
  added?: AddedValues | null
  /** Films and grains of the file that are not drawn. */
  without?: ReadonlySet<SurfaceSetting>
}
export type TriedSurfaces = ReadonlyMap<string, TriedSurface>

/** Inputs of a placement, and what three calls the maps that they feed. */
const mapsOf = {
  basecolor: ['map'],
  normal: ['normalMap'],
  roughness: ['roughnessMap', 'metalnessMap'],
  occlusion: ['aoMap'],
  emissive: ['emissiveMap'],
} as const
type MapName = (typeof mapsOf)[keyof typeof mapsOf][number]

/** Values that only the larger of the two material kinds has. */
const ofPhysical = [
  'transmission',
  'ior',
  'thickness',
  'through',
  'depth',
  'specular',
  'specularColour',
  'coat',
  'coatRoughness',
]

/** A surface with tried values over the one of the file; null where the file's is of another kind. */
export function wornSurface(
  own: Material,
  tried: TriedSurface,
  geometry: BufferGeometry,
): MeshStandardMaterial | null {
  if (!(own instanceof MeshStandardMaterial)) return null
  const asksMore = ofPhysical.some((key) => (tried.values[key] ?? null) !== null)
  const worn = asksMore && !(own instanceof MeshPhysicalMaterial) ? physicalOf(own) : own.clone()
  restyle(worn, own, tried, geometry)
  return worn
}

/** Whether a worn surface can take these values, or another kind of material is needed. */
export const canTake = (worn: Material, tried: TriedSurface): boolean =>
  worn instanceof MeshPhysicalMaterial || !ofPhysical.some((key) => (tried.values[key] ?? null) !== null)

/** Sets tried values on a surface that is worn; what is not tried is as the file says. */
export function restyle(
  worn: MeshStandardMaterial,
  own: MeshStandardMaterial,
  tried: TriedSurface,
  geometry: BufferGeometry,
): void {
  const { values } = tried
  const number = (key: string, otherwise: number): number =>
    typeof values[key] === 'number' ? values[key] : otherwise
  const colour = (key: string, otherwise: Color): Color =>
    typeof values[key] === 'string' ? new Color(values[key]) : otherwise
  worn.color.copy(colour('colour', own.color))
  worn.metalness = number('metallic', own.metalness)
  worn.roughness = number('roughness', own.roughness)
  worn.emissive.copy(colour('emissive', own.emissive))
  worn.emissiveIntensity = number('strength', own.emissiveIntensity)
  worn.aoMapIntensity = number('occlusion', own.aoMapIntensity)
  // The sign of the second says which way the loader takes green to point
  const strength = number('normal', Math.abs(own.normalScale.x))
  worn.normalScale.set(strength, strength * Math.sign(own.normalScale.y || 1))
  if (values['twoSided'] !== undefined && values['twoSided'] !== null)
    worn.side = values['twoSided'] ? DoubleSide : FrontSide
  setAlpha(worn, own, values, number)
  if (worn instanceof MeshPhysicalMaterial) {
    setMore(worn, own, number, colour)
    setFilms(worn, own, tried.without)
  }
  placeMaps(worn, own, tried)
  setTint(worn, tried.tinted ?? null)
  setLayer(worn, geometry, tried.layered ?? null)
  setDetail(worn, geometry, tried.detailed ?? null)
  setAddedValues(worn, tried.added ?? null)
}

type NumberOf = (key: string, otherwise: number) => number

function setAlpha(
  worn: MeshStandardMaterial,
  own: MeshStandardMaterial,
  values: RemedyOptions,
  number: NumberOf,
): void {
  const opacity = number('opacity', own.opacity)
  const mode =
    values['alpha'] ?? (typeof values['opacity'] === 'number' ? (opacity < 1 ? 'blend' : 'opaque') : null)
  const before = [worn.transparent, worn.alphaTest > 0]
  worn.opacity = opacity
  const isBlended = mode === 'blend' || mode === 'add'
  worn.transparent = mode === null ? own.transparent : isBlended
  worn.depthWrite = mode === null ? own.depthWrite : !isBlended
  worn.alphaTest =
    mode === 'cutout'
      ? number('cutoff', 0.5)
      : mode === null && own.alphaTest > 0
        ? number('cutoff', own.alphaTest)
        : 0
  if (before[0] !== worn.transparent || before[1] !== worn.alphaTest > 0) worn.needsUpdate = true
}

function setMore(
  worn: MeshPhysicalMaterial,
  own: MeshStandardMaterial,
  number: NumberOf,
  colour: (key: string, otherwise: Color) => Color,
): void {
  const from = own instanceof MeshPhysicalMaterial ? own : new MeshPhysicalMaterial()
  worn.transmission = number('transmission', from.transmission)
  worn.ior = number('ior', from.ior)
  worn.thickness = number('thickness', from.thickness)
  worn.attenuationColor.copy(colour('through', from.attenuationColor))
  worn.attenuationDistance = number('depth', from.attenuationDistance)
  worn.specularIntensity = number('specular', from.specularIntensity)
  worn.specularColor.copy(colour('specularColour', from.specularColor))
  worn.clearcoat = number('coat', from.clearcoat)
  worn.clearcoatRoughness = number('coatRoughness', from.clearcoatRoughness)
}

function setFilms(
  worn: MeshPhysicalMaterial,
  own: MeshStandardMaterial,
  without: TriedSurface['without'],
): void {
  if (!(own instanceof MeshPhysicalMaterial)) return
  worn.sheen = without?.has('sheen') ? 0 : own.sheen
  worn.anisotropy = without?.has('anisotropy') ? 0 : own.anisotropy
  worn.iridescence = without?.has('iridescence') ? 0 : own.iridescence
}

/** The smaller kind as the larger one, which carries what it has not with values that change nothing. */
function physicalOf(own: MeshStandardMaterial): MeshPhysicalMaterial {
  const physical = new MeshPhysicalMaterial()
  MeshStandardMaterial.prototype.copy.call(physical, own)
  physical.defines = { STANDARD: '', PHYSICAL: '' }
  return physical
}

/** Textures that are placed otherwise are copies which share the picture. */
function placeMaps(worn: MeshStandardMaterial, own: MeshStandardMaterial, { places }: TriedSurface): void {
  for (const [input, names] of Object.entries(mapsOf))
    for (const name of names) {
      const place = { ...places['all'], ...places[input] }
      const texture: Texture | null = own[name]
      if (!texture || Object.keys(place).length === 0) continue
      const copy = copyOf(worn, name, texture)
      const value = (key: string, otherwise: number): number =>
        typeof place[key] === 'number' ? place[key] : otherwise
      copy.repeat.set(value('tilingU', texture.repeat.x), value('tilingV', texture.repeat.y))
      copy.offset.set(value('offsetU', texture.offset.x), value('offsetV', texture.offset.y))
      copy.rotation = typeof place['turn'] === 'number' ? (place['turn'] * Math.PI) / 180 : texture.rotation
      copy.channel = value('channel', texture.channel)
    }
}

function copyOf(worn: MeshStandardMaterial, name: MapName, texture: Texture): Texture {
  const there = worn[name]
  if (there && there !== texture) return there
  const copy = texture.clone()
  worn[name] = copy
  worn.addEventListener('dispose', () => copy.dispose())
  worn.needsUpdate = true
  return copy
}
