import {
  AxesHelper,
  Box3,
  BufferGeometry,
  GridHelper,
  Group,
  Line,
  LineBasicMaterial,
  LineSegments,
  Vector3,
} from 'three'
import { createPerson } from './personShape'

export interface Aids {
  group: Group
  person: Group
  labels: { at: Vector3; metres: number; what: 'length' | 'width' | 'height' | 'person' }[]
}

const white = () => new LineBasicMaterial({ color: 0xffffff })

/**
 * Grid, reference person, dimension lines and axes around a box. Without a step of its own the grid is in
 * steps of ten by the size of what stands on it.
 */
export function createAids(
  box: Box3,
  { personHeight, gridStep }: { personHeight: number; gridStep: number | null },
): Aids {
  const size = box.getSize(new Vector3()),
    centre = box.getCenter(new Vector3())
  const longest = Math.max(size.x, size.y, size.z, 1e-4)
  const group = new Group()
  const major = gridStep ?? 10 ** Math.ceil(Math.log10(Math.max(longest, 0.02) / 4))
  group.add(...grid(major, Math.max(longest, personHeight * 0.6)))
  const person = createPerson(personHeight)
  const gap = Math.max(size.x * 0.18, personHeight * 0.34)
  person.position.set(box.min.x - gap, 0, centre.z)
  group.add(person)
  const off = longest * 0.09
  const line = (a: [number, number, number], b: [number, number, number]) =>
    group.add(new Line(new BufferGeometry().setFromPoints([new Vector3(...a), new Vector3(...b)]), white()))
  const [x0, y0, , x1, y1, z1] = [box.min.x, box.min.y, box.min.z, box.max.x, box.max.y, box.max.z]
  const tick = off * 0.22
  line([x0, y0, z1 + off], [x1, y0, z1 + off])
  for (const x of [x0, x1]) line([x, y0, z1 + off - tick], [x, y0, z1 + off + tick])
  line([x1 + off, y0, box.min.z], [x1 + off, y0, z1])
  for (const z of [box.min.z, z1]) line([x1 + off - tick, y0, z], [x1 + off + tick, y0, z])
  line([x1 + off, y0, box.min.z], [x1 + off, y1, box.min.z])
  for (const y of [y0, y1]) line([x1 + off - tick, y, box.min.z], [x1 + off + tick, y, box.min.z])
  const axes = new AxesHelper(longest * 0.16)
  ;(axes.material as LineBasicMaterial).depthTest = false
  group.add(axes)
  return {
    group,
    person,
    labels: [
      { at: new Vector3(centre.x, y0, z1 + off), metres: size.x, what: 'length' },
      { at: new Vector3(x1 + off, y0, centre.z), metres: size.z, what: 'width' },
      { at: new Vector3(x1 + off, centre.y, box.min.z), metres: size.y, what: 'height' },
      {
        at: new Vector3(person.position.x, personHeight * 1.06, person.position.z),
        metres: personHeight,
        what: 'person',
      },
    ],
  }
}

function grid(major: number, longest: number): LineSegments[] {
  const cells = Math.max(8, Math.ceil((longest * 4) / major))
  const make = (step: number, count: number, colour: number, opacity: number): GridHelper => {
    const helper = new GridHelper(step * count, count, colour, colour)
    const material = helper.material as LineBasicMaterial
    material.transparent = true
    material.opacity = opacity
    material.depthWrite = false
    return helper
  }
  const even = cells + (cells % 2)
  const fine = make(major / 10, Math.min(even * 10, 400), 0x8b8b8b, 0.4)
  fine.position.y = -major * 0.0005
  return [fine, make(major, even, 0xd8d4c8, 0.55)]
}
