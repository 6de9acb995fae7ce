import {
  Matrix4,
  Quaternion,
  Vector3,
  type AnimationClip,
  type Bone,
  type BufferAttribute,
  type InterleavedBufferAttribute,
  type Material,
  type Mesh,
  type Object3D,
  type SkinnedMesh,
} from 'three'
import type { UpAxis } from '@stern-gate/contract'
import {
  mergeVertices,
  pointIds,
  type VertexAttribute,
  type TranslatedClip,
  type TranslatedNode,
  type TranslatedPart,
  type TranslatedSkin,
  type TranslatedSlot,
} from '@stern-gate/core'
import type { Similarity } from './similarity'
import { translateClips } from './translateClips'
import { pathsOf, translateMaterial } from './translateMaterial'

export interface SceneUnits {
  metres: number
  upAxis: UpAxis
}

export interface TranslatedScene {
  nodes: TranslatedNode[]
  slots: TranslatedSlot[]
  skins: TranslatedSkin[]
  clips: TranslatedClip[]
  lost: string[]
  picturePaths: Set<string>
  /** Whether there is any triangle. */
  drawn: boolean
}

export function similarityOf({ metres, upAxis }: SceneUnits): Similarity {
  const quarter = Math.PI / 2
  const turn =
    upAxis === 'z'
      ? new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), -quarter)
      : upAxis === 'x'
        ? new Quaternion().setFromAxisAngle(new Vector3(0, 0, 1), quarter)
        : new Quaternion()
  const matrix = rounded(new Matrix4().makeRotationFromQuaternion(turn)).scale(
    new Vector3(metres, metres, metres),
  )
  return { matrix, inverse: matrix.clone().invert(), turn, factor: metres }
}

/** A quarter turn has only 0, 1 and −1 in it. */
function rounded(matrix: Matrix4): Matrix4 {
  matrix.elements.forEach((e, i) => {
    matrix.elements[i] = Math.round(e)
  })
  return matrix
}

interface Gathering {
  slots: TranslatedSlot[]
  materials: Map<Material, number>
  skinned: { mesh: SkinnedMesh; skin: number }[]
  indexOf: Map<Object3D, number>
  lost: Map<string, number>
  paths: Set<string>
  drawn: boolean
}

/**
 * Turns a scene of the library into nodes, slots, skins and clips in metres with Y up: every node and vertex
 * is converted, so that no node carries the change.
 */
export function translateScene(
  roots: readonly Object3D[],
  animations: readonly AnimationClip[],
  units: SceneUnits,
): TranslatedScene {
  const change = similarityOf(units)
  const all: Gathering = {
    slots: [],
    materials: new Map(),
    skinned: [],
    indexOf: new Map(),
    lost: new Map(),
    paths: new Set(),
    drawn: false,
  }
  const nodes = roots.map((root) => translateNode(root, change, all))
  const skins = all.skinned.map(({ mesh }) => translateSkin(mesh, change, all.indexOf))
  const clips = translateClips(animations, roots, change, all.indexOf, (what) => count(all.lost, what))
  return {
    nodes,
    slots: all.slots,
    skins,
    clips,
    lost: [...all.lost].map(([what, n]) => (n > 1 ? `${n} × ${what}` : what)),
    picturePaths: all.paths,
    drawn: all.drawn,
  }
}

const count = (lost: Map<string, number>, what: string): void =>
  void lost.set(what, (lost.get(what) ?? 0) + 1)

function translateNode(object: Object3D, change: Similarity, all: Gathering): TranslatedNode {
  all.indexOf.set(object, all.indexOf.size)
  const matrix = change.matrix.clone().multiply(object.matrix).multiply(change.inverse)
  const translation = new Vector3(),
    rotation = new Quaternion(),
    scale = new Vector3()
  matrix.decompose(translation, rotation, scale)
  if (!sameMatrix(new Matrix4().compose(translation, rotation, scale), matrix))
    count(all.lost, 'sheared node')
  const kind = object as {
    isMesh?: boolean
    isLine?: boolean
    isPoints?: boolean
    isLight?: boolean
    isCamera?: boolean
    isSkinnedMesh?: boolean
  }
  if (kind.isLine || kind.isPoints) count(all.lost, 'lines or points')
  if (kind.isLight) count(all.lost, 'light')
  if (kind.isCamera) count(all.lost, 'camera')
  const skin = kind.isSkinnedMesh
    ? all.skinned.push({ mesh: object as SkinnedMesh, skin: all.skinned.length }) - 1
    : undefined
  const parts = kind.isMesh ? partsOf(object as Mesh, change, all) : []
  return {
    name: (object.userData['originalName'] as string | undefined) || object.name,
    parts,
    children: object.children.map((child) => translateNode(child, change, all)),
    ...(near(translation, 0, 0, 0) ? {} : { translation: translation.toArray() }),
    ...(Math.abs(rotation.w) > 1 - 1e-12
      ? {}
      : { rotation: [rotation.x, rotation.y, rotation.z, rotation.w] }),
    ...(near(scale, 1, 1, 1) ? {} : { scale: scale.toArray() }),
    ...(skin === undefined ? {} : { skin }),
  }
}

const near = (v: Vector3, x: number, y: number, z: number): boolean =>
  Math.abs(v.x - x) + Math.abs(v.y - y) + Math.abs(v.z - z) < 1e-9

function sameMatrix(a: Matrix4, b: Matrix4): boolean {
  const size = Math.max(...b.elements.map(Math.abs))
  return a.elements.every((e, i) => Math.abs(e - b.elements[i]!) <= size * 1e-4)
}

type Attribute = BufferAttribute | InterleavedBufferAttribute

function partsOf(mesh: Mesh, change: Similarity, all: Gathering): TranslatedPart[] {
  const { geometry } = mesh
  if (geometry.morphAttributes.position && !geometry.morphTargetsRelative) count(all.lost, 'shape target')
  if (geometry.morphAttributes.normal) count(all.lost, 'normals of a shape target')
  const vertices = geometry.attributes['position']?.count ?? 0
  const index = geometry.index
    ? Uint32Array.from(geometry.index.array)
    : Uint32Array.from({ length: vertices }, (_, i) => i)
  const materials = Array.isArray(mesh.material) ? mesh.material : [mesh.material]
  const groups =
    geometry.groups.length > 0 && Array.isArray(mesh.material)
      ? geometry.groups
      : [{ start: 0, count: index.length, materialIndex: 0 }]
  const bySlot = new Map<number | null, number[]>()
  for (const group of groups) {
    const slot = slotOf(materials[group.materialIndex ?? 0], all),
      end = Math.min(index.length, group.start + group.count)
    const list = bySlot.get(slot) ?? []
    for (let k = group.start; k < end; k++) list.push(index[k]!)
    bySlot.set(slot, list)
  }
  all.drawn ||= [...bySlot.values()].some((l) => l.length >= 3)
  return [...bySlot].map(([slot, list]) => partOf(mesh, slot, list, change))
}

function slotOf(material: Material | undefined, all: Gathering): number | null {
  if (!material) return null
  const known = all.materials.get(material)
  if (known !== undefined) return known
  const index = all.slots.push(translateMaterial(material, (what) => count(all.lost, what))) - 1
  for (const path of pathsOf(all.slots[index]!)) all.paths.add(path)
  all.materials.set(material, index)
  return index
}

/** The vertices that these corners use, joined where all their values are equal. */
function partOf(
  mesh: Mesh,
  slot: number | null,
  corners: readonly number[],
  change: Similarity,
): TranslatedPart {
  const { attributes } = mesh.geometry,
    skinned = (mesh as { isSkinnedMesh?: boolean }).isSkinnedMesh
  const loose = (attribute: Attribute | undefined, size: number, fill = 0): Loose | null =>
    attribute ? { values: valuesOf(attribute, corners, size, fill), size, tolerance: 0 } : null
  const places = loose(attributes['position'], 3)!,
    normal = loose(attributes['normal'], 3),
    colour = loose(attributes['color'], 4, 1)
  const uvs = ['uv', 'uv1', 'uv2', 'uv3'].flatMap((n) => loose(attributes[n], 2) ?? [])
  const joints = skinned ? loose(attributes['skinIndex'], 4) : null,
    weights = skinned ? loose(attributes['skinWeight'], 4) : null
  const moves = mesh.geometry.morphTargetsRelative
    ? (mesh.geometry.morphAttributes.position ?? []).map((a) => loose(a, 3)!)
    : []
  const points = pointIds(places.values)
  const { rep, merged } = mergeVertices(
    points.ids,
    points.count,
    [normal, ...uvs, colour, joints, weights, ...moves].filter((l) => l !== null),
  )
  const indices = new Uint32Array(corners.length),
    kept = new Uint32Array(corners.length - merged)
  for (let corner = 0, n = 0; corner < rep.length; corner++) {
    const own = rep[corner] === corner
    if (own) kept[n] = corner
    indices[corner] = own ? n++ : indices[rep[corner]!]!
  }
  const take = ({ values, size }: Loose): Float32Array => {
    const out = new Float32Array(kept.length * size)
    for (let v = 0; v < kept.length; v++)
      for (let k = 0; k < size; k++) out[v * size + k] = values[kept[v]! * size + k]!
    return out
  }
  const positions = take(places),
    normals = normal && take(normal)
  turnPoints(positions, change.matrix)
  if (normals) turnPoints(normals, new Matrix4().makeRotationFromQuaternion(change.turn))
  return {
    slot,
    indices,
    positions,
    normals,
    uvs: uvs.map((l) => downward(take(l))),
    colours: colour && take(colour),
    joints: joints && Uint16Array.from(take(joints)),
    weights: weights && take(weights),
    targets: moves.map((l, i) => ({
      name: mesh.geometry.morphAttributes.position![i]!.name || `target ${i + 1}`,
      moves: turned(take(l), change),
    })),
  }
}

/** Values of an attribute at corners, so many each. */
type Loose = VertexAttribute

function valuesOf(
  attribute: Attribute,
  corners: readonly number[],
  size: number,
  fill: number,
): Float32Array {
  const out = new Float32Array(corners.length * size).fill(fill),
    given = Math.min(size, attribute.itemSize)
  for (let i = 0; i < corners.length; i++)
    for (let k = 0; k < given; k++) out[i * size + k] = attribute.getComponent(corners[i]!, k)
  return out
}

function turnPoints(points: Float32Array, matrix: Matrix4): void {
  const p = new Vector3()
  for (let k = 0; k < points.length; k += 3) p.fromArray(points, k).applyMatrix4(matrix).toArray(points, k)
}

/** A way is turned and scaled like a point, and does not depend on where the origin is. */
function turned(moves: Float32Array, { matrix }: Similarity): Float32Array {
  turnPoints(moves, matrix)
  return moves
}

/** These formats count v upward. */
function downward(uv: Float32Array): Float32Array {
  for (let k = 1; k < uv.length; k += 2) uv[k] = 1 - uv[k]!
  return uv
}

/** The library skins by bone · boneInverse · bindMatrix; glTF has the last two as one. */
function translateSkin(
  mesh: SkinnedMesh,
  change: Similarity,
  indexOf: ReadonlyMap<Object3D, number>,
): TranslatedSkin {
  const { bones, boneInverses } = mesh.skeleton
  const inverseBind = new Float32Array(bones.length * 16)
  boneInverses.forEach((inverse, i) =>
    inverseBind.set(
      change.matrix.clone().multiply(inverse).multiply(mesh.bindMatrix).multiply(change.inverse).elements,
      i * 16,
    ),
  )
  return { joints: bones.map((bone: Bone) => indexOf.get(bone) ?? 0), inverseBind }
}
