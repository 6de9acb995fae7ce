import type { MeshFormat, UpAxis } from '@stern-gate/contract'
import { gltfSchema, type GltfJson } from '../gltfSchema'
import type { GltfContainer } from '../gltfContainer'

/** Triangles of one slot. UVs have v downward, as glTF has them; colours are RGBA. */
export interface TranslatedPart {
  slot: number | null
  positions: Float32Array
  normals?: Float32Array | null
  uvs?: readonly Float32Array[]
  colours?: Float32Array | null
  joints?: Uint16Array | null
  weights?: Float32Array | null
  /** Shape targets: how far each vertex moves. All parts of a node have the same ones, in one order. */
  targets?: readonly { name: string; moves: Float32Array }[]
  /** Three a triangle; null: the vertices in their order. */
  indices: Uint32Array | null
}

export interface TranslatedNode {
  name: string
  parts: readonly TranslatedPart[]
  children: readonly TranslatedNode[]
  translation?: readonly number[]
  rotation?: readonly number[]
  scale?: readonly number[]
  skin?: number
}

/** Paths are as the file writes them. */
export interface TranslatedSlot {
  name: string
  baseColour: readonly [number, number, number, number]
  metallic: number
  roughness: number
  emissive: readonly [number, number, number]
  alphaMode: 'OPAQUE' | 'MASK' | 'BLEND'
  doubleSided: boolean
  textures: {
    basecolor?: string | undefined
    normal?: string | undefined
    metallicRoughness?: string | undefined
    occlusion?: string | undefined
    emissive?: string | undefined
  }
}

/** Pictures that stand inside the file, by the path under which its slots name them. */
export type InnerPictures = ReadonlyMap<string, { bytes: Uint8Array; mimeType: string }>

export interface TranslatedClip {
  name: string
  tracks: readonly {
    node: number
    path: 'translation' | 'rotation' | 'scale'
    times: Float32Array
    values: Float32Array
  }[]
}
export interface TranslatedSkin {
  joints: readonly number[]
  inverseBind: Float32Array
}

export interface Translated {
  format: MeshFormat
  generator: string
  /**
   * Metres that one unit of the file is, as it declares; null: it says nothing. The translation is in metres
   * where it is declared.
   */
  unitMetres: number | null
  upAxis: UpAxis | null
  /** Faces as the file has them, before they were cut into triangles; absent: the reader does not keep them. */
  polygons?: number
  /** What the file holds and the translation does not. */
  lost: readonly string[]
  /** Files it belongs to besides textures: material libraries. Bytes null: it did not come. */
  companions: readonly { uri: string; sizeBytes: number | null }[]
  nodes: readonly TranslatedNode[]
  slots: readonly TranslatedSlot[]
  pictures?: InnerPictures
  skins?: readonly TranslatedSkin[]
  /** Nodes are counted depth first, as `nodes` lists them. */
  clips?: readonly TranslatedClip[]
}

/**
 * Puts a translated mesh into the form of an opened GLB, so that everything after reading is the same for all
 * formats.
 */
export function buildContainer(mesh: Translated): GltfContainer {
  const data = collectData()
  const images = collectImages(mesh, data)
  const nodes: object[] = [],
    meshes: object[] = []
  const put = (node: TranslatedNode): number => {
    const index = nodes.push({}) - 1
    const parts = node.parts.filter((p) => (p.indices ? p.indices.length : p.positions.length / 3) >= 3)
    nodes[index] = {
      name: node.name,
      ...(node.translation ? { translation: [...node.translation] } : {}),
      ...(node.rotation ? { rotation: [...node.rotation] } : {}),
      ...(node.scale ? { scale: [...node.scale] } : {}),
      ...(node.skin === undefined ? {} : { skin: node.skin }),
      ...(parts.length > 0
        ? {
            mesh:
              meshes.push({
                name: node.name,
                primitives: parts.map((p) => primitiveOf(p, data)),
                ...targetNames(parts[0]!),
              }) - 1,
          }
        : {}),
    }
    const children = node.children.map(put)
    if (children.length > 0) Object.assign(nodes[index]!, { children })
    return index
  }
  const roots = mesh.nodes.map(put)
  const json = {
    asset: { version: '2.0', generator: mesh.generator },
    scene: 0,
    scenes: [{ nodes: roots }],
    nodes,
    meshes,
    materials: mesh.slots.map((slot) => slotJson(slot, images)),
    textures: images.images.map((_, source) => ({ source })),
    images: images.images,
    skins: (mesh.skins ?? []).map((s) => ({
      joints: [...s.joints],
      inverseBindMatrices: data.add(s.inverseBind, 'MAT4', 5126),
    })),
    animations: (mesh.clips ?? []).map((clip) => clipJson(clip, data)),
    ...data.finish(),
  }
  const { format, unitMetres, upAxis, lost, companions } = mesh
  return {
    format,
    json: gltfSchema.parse(json) as GltfJson,
    binary: data.bytes(),
    origin: { unitMetres, upAxis, lost, companions, polygons: mesh.polygons ?? null },
  }
}

const components: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT4: 16 }

interface DataCollector {
  add: (
    array: Float32Array | Uint32Array | Uint16Array,
    type: string,
    componentType: number,
    more?: object,
  ) => number
  addBytes: (bytes: Uint8Array) => number
  finish: () => { buffers: object[]; bufferViews: object[]; accessors: object[] }
  bytes: () => Uint8Array
}

function collectData(): DataCollector {
  const bufferViews: object[] = [],
    accessors: object[] = [],
    pieces: { at: number; bytes: Uint8Array }[] = []
  let length = 0
  const addBytes = (bytes: Uint8Array): number => {
    pieces.push({ at: length, bytes })
    bufferViews.push({ buffer: 0, byteOffset: length, byteLength: bytes.length })
    length += Math.ceil(bytes.length / 4) * 4
    return bufferViews.length - 1
  }
  return {
    addBytes,
    add(array, type, componentType, more = {}) {
      const bufferView = addBytes(new Uint8Array(array.buffer, array.byteOffset, array.byteLength))
      return (
        accessors.push({
          bufferView,
          componentType,
          type,
          count: array.length / components[type]!,
          ...more,
        }) - 1
      )
    },
    finish: () => ({ buffers: length > 0 ? [{ byteLength: length }] : [], bufferViews, accessors }),
    bytes() {
      const all = new Uint8Array(length)
      for (const { at, bytes } of pieces) all.set(bytes, at)
      return all
    },
  }
}

function primitiveOf(part: TranslatedPart, data: DataCollector): object {
  const attributes: Record<string, number> = {
    POSITION: data.add(part.positions, 'VEC3', 5126, boxOf(part.positions)),
  }
  if (part.normals) attributes['NORMAL'] = data.add(part.normals, 'VEC3', 5126)
  for (const [i, uv] of (part.uvs ?? []).entries()) attributes[`TEXCOORD_${i}`] = data.add(uv, 'VEC2', 5126)
  if (part.colours) attributes['COLOR_0'] = data.add(part.colours, 'VEC4', 5126)
  if (part.joints && part.weights) {
    attributes['JOINTS_0'] = data.add(part.joints, 'VEC4', 5123)
    attributes['WEIGHTS_0'] = data.add(part.weights, 'VEC4', 5126)
  }
  const small = part.positions.length / 3 < 65535
  return {
    attributes,
    mode: 4,
    ...(part.targets?.length
      ? {
          targets: part.targets.map(({ moves }) => ({
            POSITION: data.add(moves, 'VEC3', 5126, boxOf(moves)),
          })),
        }
      : {}),
    ...(part.indices
      ? {
          indices: small
            ? data.add(Uint16Array.from(part.indices), 'SCALAR', 5123)
            : data.add(part.indices, 'SCALAR', 5125),
        }
      : {}),
    ...(part.slot === null ? {} : { material: part.slot }),
  }
}

/** Names of shape targets stand in the mesh's extras by custom (glTF 2.0, 3.7.2.2, implementation note). */
const targetNames = ({ targets }: TranslatedPart): object =>
  targets?.length
    ? { weights: targets.map(() => 0), extras: { targetNames: targets.map((t) => t.name) } }
    : {}

function boxOf(positions: Float32Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity],
    max = [-Infinity, -Infinity, -Infinity]
  for (let k = 0; k < positions.length; k++) {
    const v = positions[k]!,
      axis = k % 3
    if (v < min[axis]!) min[axis] = v
    if (v > max[axis]!) max[axis] = v
  }
  return { min, max }
}

interface ImageList {
  images: object[]
  indexOf: (path: string) => number
}

function collectImages(mesh: Translated, data: DataCollector): ImageList {
  const images: object[] = [],
    known = new Map<string, number>()
  return {
    images,
    indexOf(path) {
      const plain = path.replaceAll('\\', '/').trim(),
        found = known.get(plain)
      if (found !== undefined) return found
      const inner = mesh.pictures?.get(path)
      const index =
        images.push(
          inner
            ? {
                name: plain.split('/').at(-1),
                mimeType: inner.mimeType,
                bufferView: data.addBytes(inner.bytes),
              }
            : { uri: plain.split('/').map(encodeName).join('/') },
        ) - 1
      known.set(plain, index)
      return index
    },
  }
}

/** A drive letter stays one: it marks the path as absolute. */
const encodeName = (part: string): string => (/^[A-Za-z]:$/.test(part) ? part : encodeURIComponent(part))

function slotJson(slot: TranslatedSlot, images: ImageList): object {
  const texture = (path: string | undefined) => (path ? { index: images.indexOf(path) } : undefined)
  const { basecolor, normal, metallicRoughness, occlusion, emissive } = slot.textures
  return {
    name: slot.name,
    pbrMetallicRoughness: {
      baseColorFactor: [...slot.baseColour],
      metallicFactor: slot.metallic,
      roughnessFactor: slot.roughness,
      ...given('baseColorTexture', texture(basecolor)),
      ...given('metallicRoughnessTexture', texture(metallicRoughness)),
    },
    ...given('normalTexture', texture(normal)),
    ...given('occlusionTexture', texture(occlusion)),
    ...given('emissiveTexture', texture(emissive)),
    emissiveFactor: [...slot.emissive],
    ...(slot.alphaMode === 'OPAQUE' ? {} : { alphaMode: slot.alphaMode }),
    ...(slot.doubleSided ? { doubleSided: true } : {}),
  }
}

const given = <K extends string, T>(key: K, value: T | undefined): Partial<Record<K, T>> =>
  value === undefined ? {} : ({ [key]: value } as Record<K, T>)

function clipJson(clip: TranslatedClip, data: DataCollector): object {
  return {
    name: clip.name,
    samplers: clip.tracks.map((t) => ({
      input: data.add(t.times, 'SCALAR', 5126, { min: [t.times[0] ?? 0], max: [t.times.at(-1) ?? 0] }),
      output: data.add(t.values, t.path === 'rotation' ? 'VEC4' : 'VEC3', 5126),
      interpolation: 'LINEAR',
    })),
    channels: clip.tracks.map((t, sampler) => ({ sampler, target: { node: t.node, path: t.path } })),
  }
}
