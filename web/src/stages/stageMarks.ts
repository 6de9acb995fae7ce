import { Box3, Box3Helper, BufferAttribute, BufferGeometry, Color, DoubleSide, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial, Points, PointsMaterial, Vector3 } from 'three'
import type { StageModel } from './loadModel'

/** What is to be marked on the model. */
export type StageMark = { kind: 'node'; node: string } | { kind: 'slot'; slot: string } | { kind: 'triangles'; node: string; primitive: number; triangles: Uint32Array }

const MAGENTA = new Color('#ff3d9a')

/** Draws marks over the model; triangles without an area show as lines and points. */
export function createMarks(model: StageModel, mark: StageMark | null): Group {
  const group = new Group()
  if (!mark) return group
  if (mark.kind === 'triangles') {
    const target = model.meshes.find((m) => m.path === mark.node && m.primitive === mark.primitive)
    if (target) group.add(...triangleMarks(target.mesh, mark.triangles))
    return group
  }
  const chosen = model.meshes.filter((m) => (mark.kind === 'node' ? m.path === mark.node : m.slot === mark.slot))
  for (const { mesh } of chosen) {
    const shade = new Mesh(mesh.geometry, new MeshBasicMaterial({ color: MAGENTA, transparent: true, opacity: 0.32, side: DoubleSide, depthWrite: false, polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -1 }))
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

/** More triangles than this are not outlined one by one. */
const MOST_OUTLINED = 20_000

function triangleMarks(mesh: Mesh, triangles: Uint32Array): (Mesh | LineSegments | Points)[] {
  const position = mesh.geometry.getAttribute('position'), index = mesh.geometry.getIndex()
  const corners: number[] = [], edges: number[] = [], points: number[] = []
  const at = new Vector3()
  for (const t of triangles.subarray(0, MOST_OUTLINED)) {
    const three = [0, 1, 2].map((i) => {
      const vertex = index ? index.getX(t * 3 + i) : t * 3 + i
      at.fromBufferAttribute(position, Math.min(vertex, position.count - 1)).applyMatrix4(mesh.matrixWorld)
      return [at.x, at.y, at.z] as const
    })
    for (const corner of three) corners.push(...corner)
    for (let i = 0; i < 3; i++) edges.push(...three[i]!, ...three[(i + 1) % 3]!)
    points.push(...three[0]!)
  }
  const geometry = (values: number[]) => new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(values), 3))
  return [
    new Mesh(geometry(corners), new MeshBasicMaterial({ color: MAGENTA, side: DoubleSide, transparent: true, opacity: 0.7, depthTest: false })),
    new LineSegments(geometry(edges), new LineBasicMaterial({ color: MAGENTA, depthTest: false })),
    new Points(geometry(points), new PointsMaterial({ color: MAGENTA, size: 8, sizeAttenuation: false, depthTest: false })),
  ]
}
