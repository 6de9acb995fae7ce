import {
  Box3,
  Box3Helper,
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  Points,
  PointsMaterial,
  Vector3,
} from 'three'
import { colourDistances } from './distanceColours'
import type { StageModel } from './loadModel'
import { cornersOf, worldOf } from './meshPlaces'

/** What is to be marked on the model. */
export type StageMark =
  | { kind: 'node'; node: string }
  | { kind: 'slot'; slot: string }
  | { kind: 'triangles'; node: string; primitive: number; triangles: Uint32Array }
  /** Points at x y z each, and one that they give, with lines along the axes. */
  | { kind: 'points'; places: number[]; centre: [number, number, number] | null; size: number }
  /** Metres of each vertex from another surface; `far`: from where on they are no longer told apart. */
  | { kind: 'distances'; node: string; primitive: number; distances: Float32Array; far: number }

const MAGENTA = new Color('#ff3d9a')

/** Draws marks over the model; triangles without an area show as lines and points. */
export function createMarks(model: StageModel, mark: StageMark | null): Group {
  const group = new Group()
  if (!mark) return group
  if (mark.kind === 'points') return group.add(...pointMarks(mark))
  if (mark.kind === 'triangles' || mark.kind === 'distances') {
    const target = model.meshes.find((m) => m.path === mark.node && m.primitive === mark.primitive)
    if (target && mark.kind === 'triangles') group.add(...triangleMarks(target.mesh, mark.triangles))
    else if (target && mark.kind === 'distances') group.add(distanceMark(target.mesh, mark))
    return group
  }
  const chosen = model.meshes.filter((m) =>
    mark.kind === 'node' ? m.path === mark.node : m.slot === mark.slot,
  )
  for (const { mesh } of chosen) {
    const shade = new Mesh(
      mesh.geometry,
      new MeshBasicMaterial({
        color: MAGENTA,
        transparent: true,
        opacity: 0.32,
        side: DoubleSide,
        depthWrite: false,
        polygonOffset: true,
        polygonOffsetFactor: -1,
        polygonOffsetUnits: -1,
      }),
    )
    shade.matrixAutoUpdate = false
    shade.matrix.copy(mesh.matrixWorld)
    group.add(shade)
  }
  if (mark.kind === 'node' && chosen.length > 0) {
    const box = new Box3()
    for (const { mesh } of chosen) box.expandByObject(mesh, true)
    group.add(new Box3Helper(box, MAGENTA))
  }
  return group
}

function pointMarks({ places, centre, size }: StageMark & { kind: 'points' }): (Points | LineSegments)[] {
  const of = (values: readonly number[]) =>
    new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(values), 3))
  const dots = new Points(
    of(places),
    new PointsMaterial({ color: MAGENTA, size: 9, sizeAttenuation: false, depthTest: false }),
  )
  if (!centre) return [dots]
  const lines = [0, 1, 2].flatMap((axis) =>
    [-1, 1].flatMap((side) => centre.map((v, i) => (i === axis ? v + side * size : v))),
  )
  return [
    dots,
    new LineSegments(
      of(lines),
      new LineBasicMaterial({ color: MAGENTA, depthTest: false, transparent: true }),
    ),
  ]
}

function distanceMark(mesh: Mesh, { distances, far }: StageMark & { kind: 'distances' }): Mesh {
  // Attributes of its own: what is shared with the model would be freed with the mark
  const geometry = new BufferGeometry()
    .setAttribute('position', new BufferAttribute(worldOf(mesh), 3))
    .setAttribute('color', new BufferAttribute(colourDistances(distances, far), 3))
    .setIndex(new BufferAttribute(Uint32Array.from(cornersOf(mesh.geometry)), 1))
  const material = new MeshBasicMaterial({
    vertexColors: true,
    side: DoubleSide,
    toneMapped: false,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -1,
  })
  return new Mesh(geometry, material)
}

/** So many get a dot each, which shows where a triangle too small to be seen is. */
const MOST_DOTTED = 60
/** So many show through whatever stands before them; more would hide the shape of the model. */
const MOST_THROUGH = 400
/** More triangles than this are not outlined one by one. */
const MOST_OUTLINED = 4_000
/** Nor are more than this filled. */
const MOST_FILLED = 400_000

function triangleMarks(mesh: Mesh, triangles: Uint32Array): (Mesh | LineSegments | Points)[] {
  const position = mesh.geometry.getAttribute('position'),
    index = mesh.geometry.getIndex()
  const list = triangles.subarray(0, MOST_FILLED)
  const through = list.length <= MOST_THROUGH
  const corners = new Float32Array(list.length * 9)
  const at = new Vector3()
  for (const [i, t] of list.entries())
    for (let c = 0; c < 3; c++) {
      const vertex = index ? index.getX(t * 3 + c) : t * 3 + c
      at.fromBufferAttribute(position, Math.min(vertex, position.count - 1))
        .applyMatrix4(mesh.matrixWorld)
        .toArray(corners, i * 9 + c * 3)
    }
  const geometry = (values: Float32Array) =>
    new BufferGeometry().setAttribute('position', new BufferAttribute(values, 3))
  // A handful shows through everything; where half the model is marked it has to keep its shape
  const fill = new Mesh(
    geometry(corners),
    new MeshBasicMaterial({
      color: MAGENTA,
      side: DoubleSide,
      transparent: true,
      opacity: through ? 0.7 : 0.5,
      depthTest: !through,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -1,
    }),
  )
  if (list.length > MOST_OUTLINED) return [fill]
  const edges = new Float32Array(list.length * 18),
    points = new Float32Array(list.length * 3)
  for (let i = 0; i < list.length; i++) {
    const own = corners.subarray(i * 9, i * 9 + 9)
    edges.set(
      [...own.subarray(0, 6), ...own.subarray(3, 9), ...own.subarray(6, 9), ...own.subarray(0, 3)],
      i * 18,
    )
    points.set(own.subarray(0, 3), i * 3)
  }
  const outlined = [
    fill,
    new LineSegments(geometry(edges), new LineBasicMaterial({ color: MAGENTA, depthTest: !through })),
  ]
  return list.length > MOST_DOTTED
    ? outlined
    : [
        ...outlined,
        new Points(
          geometry(points),
          new PointsMaterial({ color: MAGENTA, size: 8, sizeAttenuation: false, depthTest: false }),
        ),
      ]
}
