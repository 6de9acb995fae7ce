import { bad, good, type Outcome } from '@stern-gate/contract'
import type { GltfContainer } from './gltfContainer'
import type { GltfJson } from './gltfSchema'

/** More decoded accessor bytes than this in one file are refused before anything is allocated. */
export const MAX_ACCESSOR_BYTES = 2 ** 31
/** More nodes under one another than this are refused. */
const MAX_NODE_DEPTH = 512

/** Bytes of a component, by its number in glTF. */
export const componentBytes: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
/** Components of an element. */
export const components: Record<string, number> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
}

const hint = 'The file is damaged or was written by a faulty exporter; export it again.'
const outOfBounds = (part: string, why: string) => bad('gltf/out-of-bounds', why, hint, { part })
const badStructure = (part: string, why: string) => bad('gltf/bad-structure', why, hint, { part })

type Check = Outcome<true>
const fine: Check = good(true)

/**
 * Checks that every number in the JSON points at something that is there and that every range fits, so that
 * reading cannot run out of bounds or into a loop. Faults: gltf/out-of-bounds, gltf/bad-structure,
 * gltf/too-large.
 */
export function checkGltfStructure({ json, binary, format }: GltfContainer): Check {
  for (const check of [checkBuffers, checkAccessors, checkMeshes, checkNodes, checkRest]) {
    const result = check(json, format === 'glb' ? (binary?.length ?? 0) : null)
    if (!result.ok) return result
  }
  return fine
}

function checkBuffers(json: GltfJson, binaryBytes: number | null): Check {
  for (const [i, buffer] of json.buffers.entries()) {
    if (buffer.uri !== undefined) continue
    const isFallback = JSON.stringify(buffer['extensions'] ?? '').includes('fallback')
    if (isFallback) continue
    if (binaryBytes === null || i > 0)
      return badStructure(`buffers.${i}`, `Buffer ${i} has neither a URI nor a binary chunk.`)
    if (buffer.byteLength > binaryBytes)
      return outOfBounds(
        `buffers.${i}`,
        `Buffer ${i} claims ${buffer.byteLength} bytes, the binary chunk has ${binaryBytes}.`,
      )
  }
  for (const [i, view] of json.bufferViews.entries()) {
    const buffer = json.buffers[view.buffer]
    if (!buffer)
      return outOfBounds(
        `bufferViews.${i}`,
        `Buffer view ${i} names buffer ${view.buffer}, which is not there.`,
      )
    const end = (view.byteOffset ?? 0) + view.byteLength
    if (end > buffer.byteLength)
      return outOfBounds(
        `bufferViews.${i}`,
        `Buffer view ${i} ends at byte ${end}, its buffer has ${buffer.byteLength}.`,
      )
  }
  for (const [i, image] of json.images.entries()) {
    if (image.bufferView === undefined && image.uri === undefined)
      return badStructure(`images.${i}`, `Image ${i} has neither a URI nor a buffer view.`)
    if (image.bufferView !== undefined && !json.bufferViews[image.bufferView])
      return outOfBounds(
        `images.${i}`,
        `Image ${i} names buffer view ${image.bufferView}, which is not there.`,
      )
  }
  return fine
}

function checkAccessors(json: GltfJson): Check {
  let total = 0
  for (const [i, accessor] of json.accessors.entries()) {
    const part = `accessors.${i}`
    const element = componentBytes[accessor.componentType]! * components[accessor.type]!
    total += accessor.count * element
    if (total > MAX_ACCESSOR_BYTES)
      return bad(
        'gltf/too-large',
        `Accessor ${i} claims ${accessor.count} elements; together the accessors pass ${MAX_ACCESSOR_BYTES} bytes.`,
        'Split the file, or export it again if the number makes no sense.',
        { part },
      )
    if (accessor.bufferView !== undefined) {
      const view = json.bufferViews[accessor.bufferView]
      if (!view)
        return outOfBounds(
          part,
          `Accessor ${i} names buffer view ${accessor.bufferView}, which is not there.`,
        )
      const stride = view.byteStride ?? element
      const end =
        accessor.count === 0 ? 0 : (accessor.byteOffset ?? 0) + (accessor.count - 1) * stride + element
      const packed = view.extensions && 'EXT_meshopt_compression' in view.extensions
      if (!packed && end > view.byteLength)
        return outOfBounds(
          part,
          `Accessor ${i} needs ${end} bytes (${accessor.count} elements), its buffer view has ${view.byteLength}.`,
        )
    }
    if (accessor.sparse) {
      const { sparse } = accessor
      if (sparse.count > accessor.count)
        return outOfBounds(part, `Accessor ${i} replaces ${sparse.count} of ${accessor.count} elements.`)
      const ranges = [
        {
          view: json.bufferViews[sparse.indices.bufferView],
          from: sparse.indices.byteOffset ?? 0,
          size: componentBytes[sparse.indices.componentType]!,
        },
        {
          view: json.bufferViews[sparse.values.bufferView],
          from: sparse.values.byteOffset ?? 0,
          size: element,
        },
      ]
      for (const { view, from, size } of ranges)
        if (!view || from + sparse.count * size > view.byteLength)
          return outOfBounds(part, `The sparse part of accessor ${i} runs past its buffer view.`)
    }
  }
  return fine
}

function checkMeshes(json: GltfJson): Check {
  const needs = [
    ['POSITION', 'VEC3'],
    ['NORMAL', 'VEC3'],
    ['TANGENT', 'VEC4'],
  ] as const
  for (const [i, mesh] of json.meshes.entries())
    for (const [k, primitive] of mesh.primitives.entries()) {
      const part = `meshes.${i}.primitives.${k}`
      const named = [
        ...Object.values(primitive.attributes),
        ...primitive.targets.flatMap((t) => Object.values(t)),
        ...(primitive.indices === undefined ? [] : [primitive.indices]),
      ]
      const missing = named.find((a) => !json.accessors[a])
      if (missing !== undefined) return outOfBounds(part, `It names accessor ${missing}, which is not there.`)
      for (const [semantic, type] of needs) {
        const accessor = json.accessors[primitive.attributes[semantic] ?? -1]
        if (accessor && accessor.type !== type)
          return badStructure(part, `${semantic} is ${accessor.type}; it must be ${type}.`)
      }
      for (const [semantic, a] of Object.entries(primitive.attributes))
        if (semantic.startsWith('TEXCOORD_') && json.accessors[a]!.type !== 'VEC2')
          return badStructure(part, `${semantic} is ${json.accessors[a]!.type}; it must be VEC2.`)
      const counts = new Set(Object.values(primitive.attributes).map((a) => json.accessors[a]!.count))
      if (counts.size > 1)
        return badStructure(part, `Its attributes have different vertex counts: ${[...counts].join(', ')}.`)
      if (primitive.indices !== undefined && json.accessors[primitive.indices]!.type !== 'SCALAR')
        return badStructure(part, 'Its indices are not single numbers.')
      if (primitive.material !== undefined && !json.materials[primitive.material])
        return outOfBounds(part, `It names material ${primitive.material}, which is not there.`)
    }
  return fine
}

function checkNodes(json: GltfJson): Check {
  const parents = new Int32Array(json.nodes.length).fill(-1)
  for (const [i, node] of json.nodes.entries()) {
    const part = `nodes.${i}`
    if (node.mesh !== undefined && !json.meshes[node.mesh])
      return outOfBounds(part, `Node ${i} names mesh ${node.mesh}, which is not there.`)
    if (node.skin !== undefined && !json.skins[node.skin])
      return outOfBounds(part, `Node ${i} names skin ${node.skin}, which is not there.`)
    for (const child of node.children) {
      if (!json.nodes[child]) return outOfBounds(part, `Node ${i} names child ${child}, which is not there.`)
      if (parents[child] !== -1) return badStructure(part, `Node ${child} has two parents.`)
      parents[child] = i
    }
  }
  // With one parent each, climbing from a node either ends or is a loop
  const depths = new Int32Array(json.nodes.length)
  for (let i = 0; i < parents.length; i++) {
    const climbed: number[] = []
    let at = i
    while (at !== -1 && depths[at] === 0) {
      depths[at] = -1
      climbed.push(at)
      at = parents[at]!
    }
    if (at !== -1 && depths[at] === -1) return badStructure(`nodes.${i}`, `Node ${i} is its own ancestor.`)
    let depth = at === -1 ? 0 : depths[at]!
    for (const node of climbed.reverse()) depths[node] = ++depth
    if (depth > MAX_NODE_DEPTH)
      return badStructure(`nodes.${i}`, `Nodes are nested deeper than ${MAX_NODE_DEPTH}.`)
  }
  return fine
}

function checkRest(json: GltfJson): Check {
  for (const [i, scene] of json.scenes.entries())
    for (const node of scene.nodes)
      if (!json.nodes[node])
        return outOfBounds(`scenes.${i}`, `Scene ${i} names node ${node}, which is not there.`)
  for (const [i, skin] of json.skins.entries()) {
    const joint = skin.joints.find((j) => !json.nodes[j])
    if (joint !== undefined)
      return outOfBounds(`skins.${i}`, `Skin ${i} names joint ${joint}, which is not there.`)
    if (skin.inverseBindMatrices !== undefined && json.accessors[skin.inverseBindMatrices]?.type !== 'MAT4')
      return badStructure(`skins.${i}`, `Skin ${i} has inverse bind matrices that are not MAT4.`)
  }
  for (const [i, texture] of json.textures.entries())
    if (texture.source !== undefined && !json.images[texture.source])
      return outOfBounds(`textures.${i}`, `Texture ${i} names image ${texture.source}, which is not there.`)
  for (const [i, clip] of json.animations.entries()) {
    for (const sampler of clip.samplers)
      if (!json.accessors[sampler.input] || !json.accessors[sampler.output])
        return outOfBounds(`animations.${i}`, `Clip ${i} names an accessor which is not there.`)
    for (const channel of clip.channels) {
      if (!clip.samplers[channel.sampler])
        return outOfBounds(
          `animations.${i}`,
          `Clip ${i} names sampler ${channel.sampler}, which is not there.`,
        )
      if (channel.target.node !== undefined && !json.nodes[channel.target.node])
        return outOfBounds(
          `animations.${i}`,
          `Clip ${i} moves node ${channel.target.node}, which is not there.`,
        )
    }
  }
  if (json.scene !== undefined && json.scenes.length > 0 && !json.scenes[json.scene])
    return outOfBounds('scene', `The default scene is ${json.scene}, which is not there.`)
  return fine
}
