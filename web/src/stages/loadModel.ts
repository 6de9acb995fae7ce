import { SaidError } from '../words/troubleWords'
import {
  Box3,
  type Camera,
  Mesh,
  Object3D,
  type AnimationClip,
  type Material,
  type MeshStandardMaterial,
  type Texture,
} from 'three'
import { GLTFLoader, type GLTF } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { MeshoptDecoder } from 'three/examples/jsm/libs/meshopt_decoder.module.js'

/** A model on the stage, its meshes by the node paths that findings use. */
export interface StageModel {
  root: Object3D
  /** In the order of the file. */
  clips: readonly AnimationClip[]
  /** Cameras that came with it, by the names of their nodes. */
  views: readonly { name: string; camera: Camera }[]
  meshes: {
    path: string
    primitive: number
    slot: string
    mesh: Mesh
    /** Its own base colour, whatever it wears. */ picture: Texture | null
    own: Material | Material[]
    /** What it wears under the variants of the file, by their names. */
    variants: ReadonlyMap<string, { slot: string; material: Material }>
  }[]
}

interface GltfNode {
  name?: string
  children?: number[]
}
interface GltfJson {
  nodes?: GltfNode[]
  scenes?: { nodes?: number[] }[]
  scene?: number
  materials?: { name?: string }[]
  meshes?: {
    primitives: {
      material?: number
      extensions?: { KHR_materials_variants?: { mappings?: { material: number; variants: number[] }[] } }
    }[]
  }[]
  extensions?: { KHR_materials_variants?: { variants?: { name?: string }[] } }
}

/**
 * Loads one GLB and finds for each drawn mesh its node path and primitive, by the file's own names and not by
 * the loader's.
 */
export async function loadModel(address: string, signal: AbortSignal): Promise<StageModel> {
  const response = await fetch(address, { signal })
  if (!response.ok) throw new SaidError('The model cannot be shown: the server has none.')
  const bytes = await response.arrayBuffer()
  const gltf = await new GLTFLoader().setMeshoptDecoder(MeshoptDecoder).parseAsync(bytes, '')
  const meshes = namedMeshes(gltf)
  await Promise.all(meshes.map((mesh) => dressByVariants(gltf, mesh)))
  return { root: gltf.scene, clips: gltf.animations, views: viewsOf(gltf), meshes }
}

function viewsOf(gltf: GLTF): StageModel['views'] {
  const views: { name: string; camera: Camera }[] = []
  gltf.scene.traverse((object) => {
    if ((object as Camera).isCamera)
      views.push({
        name: object.name || object.parent?.name || `view ${views.length + 1}`,
        camera: object as Camera,
      })
  })
  return views
}

function namedMeshes(gltf: GLTF): StageModel['meshes'] {
  const json = gltf.parser.json as GltfJson
  const paths = pathsOfNodes(json)
  const found: StageModel['meshes'] = []
  const walk = (object: Object3D, path: string): void => {
    const association = gltf.parser.associations.get(object) as
      { nodes?: number; meshes?: number; primitives?: number } | undefined
    const own = association?.nodes !== undefined ? (paths.get(association.nodes) ?? path) : path
    if (object instanceof Mesh) {
      const primitive = association?.primitives ?? 0
      const material =
        association?.meshes !== undefined
          ? json.meshes?.[association.meshes]?.primitives[primitive]?.material
          : undefined
      found.push({
        path: own,
        primitive,
        slot: material === undefined ? '' : (json.materials?.[material]?.name ?? ''),
        mesh: object,
        picture: ([object.material].flat()[0] as MeshStandardMaterial | undefined)?.map ?? null,
        own: object.material,
        variants: new Map(),
      })
    }
    for (const child of object.children) walk(child, own)
  }
  walk(gltf.scene, '')
  return found
}

/** Fetches the slots that a mesh wears under variants; the loader makes those alone that something wears at first. */
async function dressByVariants(gltf: GLTF, one: StageModel['meshes'][number]): Promise<void> {
  const json = gltf.parser.json as GltfJson
  const at = gltf.parser.associations.get(one.mesh) as { meshes?: number; primitives?: number } | undefined
  const primitive = json.meshes?.[at?.meshes ?? -1]?.primitives[at?.primitives ?? 0]
  const names = json.extensions?.KHR_materials_variants?.variants ?? []
  const variants = new Map<string, { slot: string; material: Material }>()
  for (const mapping of primitive?.extensions?.KHR_materials_variants?.mappings ?? []) {
    const material = (await gltf.parser.getDependency('material', mapping.material)) as Material | undefined
    if (!material) continue
    // The loader copies a material for the attributes of each mesh, and so must be done here
    const worn = new Mesh(one.mesh.geometry, material)
    gltf.parser.assignFinalMaterial(worn)
    for (const index of mapping.variants)
      variants.set(names[index]?.name ?? '', {
        slot: json.materials?.[mapping.material]?.name ?? '',
        material: worn.material as Material,
      })
  }
  one.variants = variants
}

/** The same stable names as core's nodePaths gives. */
function pathsOfNodes(json: GltfJson): Map<number, string> {
  const paths = new Map<number, string>()
  const walk = (siblings: number[], prefix: string): void => {
    const seen = new Map<string, number>()
    for (const index of siblings) {
      const name = json.nodes?.[index]?.name || '(node)'
      const count = (seen.get(name) ?? 0) + 1
      seen.set(name, count)
      const path = `${prefix}${name}${count > 1 ? `#${count}` : ''}`
      paths.set(index, path)
      walk(json.nodes?.[index]?.children ?? [], `${path}/`)
    }
  }
  walk(json.scenes?.[json.scene ?? 0]?.nodes ?? [], '')
  return paths
}

/** Box around the meshes whose paths are shown. */
export function boundsOf(model: StageModel, shown: (path: string) => boolean): Box3 {
  model.root.updateMatrixWorld(true)
  const box = new Box3()
  for (const { path, mesh } of model.meshes) if (shown(path)) box.expandByObject(mesh, true)
  return box
}

/** Gives back what the model holds on the graphics card. */
export function disposeModel(model: StageModel): void {
  for (const { mesh, own, variants } of model.meshes) {
    mesh.geometry.dispose()
    for (const material of [own, ...[...variants.values()].map((v) => v.material)].flat()) {
      for (const value of Object.values(material))
        if (value && typeof value === 'object' && 'isTexture' in value) freeTexture(value as Texture)
      material.dispose()
    }
  }
}

/** A decoded picture lies outside of what is collected by itself. */
function freeTexture(texture: Texture): void {
  const { data } = texture.source as { data: unknown }
  if (typeof ImageBitmap !== 'undefined' && data instanceof ImageBitmap) data.close()
  texture.dispose()
}
