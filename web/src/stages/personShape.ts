import {
  BufferGeometry,
  DoubleSide,
  Group,
  Line,
  LineBasicMaterial,
  LineLoop,
  Mesh,
  MeshBasicMaterial,
  Shape,
  ShapeGeometry,
  Vector3,
} from 'three'

/** Right half of the outline, from crotch to crown; x and y in the drawing's own units, 1.83 high. */
const HALF: readonly [number, number][] = [
  [0.015, 0.62],
  [0.02, 0.03],
  [0.02, 0],
  [0.17, 0],
  [0.172, 0.045],
  [0.13, 0.085],
  [0.125, 0.56],
  [0.23, 0.57],
  [0.225, 0.79],
  [0.262, 0.8],
  [0.285, 1],
  [0.278, 1.3],
  [0.25, 1.44],
  [0.17, 1.52],
  [0.075, 1.55],
  [0.07, 1.585],
  [0.1, 1.63],
  [0.108, 1.715],
  [0.145, 1.722],
  [0.145, 1.745],
  [0.105, 1.757],
  [0.092, 1.8],
  [0.04, 1.828],
  [0, 1.83],
]
const DRAWN_HEIGHT = 1.83

/**
 * A flat paper cut-out in coat and cap with a height staff, `height` metres tall, standing at its group's
 * origin and facing +Z.
 */
export function createPerson(height: number): Group {
  const outline = new Shape()
  for (const [i, [x, y]] of HALF.entries())
    if (i === 0) outline.moveTo(x, y)
    else outline.lineTo(x, y)
  for (const [x, y] of [...HALF].reverse()) outline.lineTo(-x, y)
  outline.closePath()
  const person = new Group()
  person.add(
    new Mesh(new ShapeGeometry(outline), new MeshBasicMaterial({ color: 0xeee8d8, side: DoubleSide })),
  )
  const edge = outline.getPoints().map((p) => new Vector3(p.x, p.y, 0.004))
  person.add(
    new LineLoop(new BufferGeometry().setFromPoints(edge), new LineBasicMaterial({ color: 0x17323a })),
  )
  const white = new LineBasicMaterial({ color: 0xffffff })
  const line = (...points: [number, number][]) =>
    person.add(
      new Line(new BufferGeometry().setFromPoints(points.map(([x, y]) => new Vector3(x, y, 0))), white),
    )
  line([-0.42, 0], [-0.42, DRAWN_HEIGHT])
  for (let y = 0; y <= DRAWN_HEIGHT + 0.001; y += DRAWN_HEIGHT / 10) line([-0.46, y], [-0.38, y])
  person.scale.setScalar(height / DRAWN_HEIGHT)
  return person
}
