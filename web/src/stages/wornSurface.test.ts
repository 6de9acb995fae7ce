import {
  BufferGeometry,
  DoubleSide,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  Texture,
  type Material,
} from 'three'
import { describe, expect, it } from 'vitest'
import { canTake, restyle, wornSurface, type TriedSurface } from './wornSurface'

const own = (): MeshStandardMaterial => {
  const material = new MeshStandardMaterial({ metalness: 0.25, roughness: 0.75, map: new Texture() })
  material.normalScale.set(1, -1)
  return material
}
const box = new BufferGeometry()
const wear = (material: Material, surface: TriedSurface) => wornSurface(material, surface, box)
const change = (worn: MeshStandardMaterial, file: MeshStandardMaterial, surface: TriedSurface): void =>
  restyle(worn, file, surface, box)
const tried = (values = {}, places = {}) => ({ values, places })

describe('a surface that is tried on a slot', () => {
  it('changes what is said, and leaves the rest and the one of the file as they are', () => {
    const file = own(),
      worn = wear(file, tried({ metallic: 1, colour: '#ff0000', twoSided: true }))!
    expect([worn.metalness, worn.roughness, worn.color.getHexString(), worn.side]).toEqual([
      1,
      0.75,
      'ff0000',
      DoubleSide,
    ])
    expect([file.metalness, file.color.getHexString()]).toEqual([0.25, 'ffffff'])
    change(worn, file, tried({ roughness: 0.1 }))
    expect([worn.metalness, worn.roughness]).toEqual([0.25, 0.1])
  })
  it('keeps the way green points when the strength changes', () => {
    const worn = wear(own(), tried({ normal: 0.5 }))!
    expect(worn.normalScale.toArray()).toEqual([0.5, -0.5])
  })
  it('becomes the larger kind of material where a value asks for it, with all it had', () => {
    const file = own(),
      small = wear(file, tried({ metallic: 1 }))!,
      large = wear(file, tried({ transmission: 0.5, ior: 1.33 }))!
    expect(small).not.toBeInstanceOf(MeshPhysicalMaterial)
    expect(canTake(small, tried({ coat: 1 }))).toBe(false)
    expect(large).toBeInstanceOf(MeshPhysicalMaterial)
    expect(large).toMatchObject({ transmission: 0.5, ior: 1.33, roughness: 0.75, map: file.map })
    expect(large.defines).toEqual({ STANDARD: '', PHYSICAL: '' })
  })
  it('is blended, cut out or opaque as the alpha says, else as the opacity does', () => {
    const alpha = (values: object) => {
      const { transparent, alphaTest, depthWrite } = wear(own(), tried(values))!
      return [transparent, alphaTest, depthWrite]
    }
    expect(alpha({ opacity: 0.5 })).toEqual([true, 0, false])
    expect(alpha({ opacity: 1 })).toEqual([false, 0, true])
    expect(alpha({ alpha: 'cutout', cutoff: 0.3 })).toEqual([false, 0.3, true])
    expect(alpha({ alpha: 'blend', opacity: 1 })).toEqual([true, 0, false])
  })
  it('places a copy of the texture that shares its picture; what is said of one input goes first', () => {
    const file = own(),
      worn = wear(file, tried({}, { all: { tilingU: 2, turn: 90 }, basecolor: { tilingU: 3 } }))!
    expect(worn.map).not.toBe(file.map)
    expect(worn.map!.source).toBe(file.map!.source)
    expect([worn.map!.repeat.x, worn.map!.repeat.y]).toEqual([3, 1])
    expect(worn.map!.rotation).toBeCloseTo(Math.PI / 2)
    expect(file.map!.repeat.x).toBe(1)
  })
  it('is none where the file has a surface of another kind', () => {
    expect(wear(new MeshBasicMaterial(), tried({ metallic: 1 }))).toBeNull()
  })
})
