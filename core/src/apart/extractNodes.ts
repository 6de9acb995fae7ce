import {
  Document,
  type Animation,
  type ExtensionProperty,
  type Node,
  type Property,
} from '@gltf-transform/core'
import { copyToDocument, createDefaultPropertyResolver } from '@gltf-transform/functions'
import { invertAffine, multiplyMatrices, type Matrix4 } from '../geometry/matrix'

export interface Piece {
  document: Document
  /** Numbers of the scene's pictures by those of the piece. */
  pictures: Map<Property, number>
}

/**
 * Copies the mesh nodes of the `wanted` paths into a Document of their own, with what they need: slots, pictures,
 * bones, clips, and what stands above them. `frame` becomes the origin. The source is not changed.
 */
export function extractNodes(
  source: Document,
  paths: ReadonlyMap<Node, string>,
  wanted: ReadonlySet<string>,
  name: string,
  frame: Matrix4,
): Piece {
  const document = new Document()
  const asset = source.getRoot().getAsset()
  Object.assign(document.getRoot().getAsset(), {
    ...(asset.generator ? { generator: asset.generator } : {}),
    ...(asset.copyright ? { copyright: asset.copyright } : {}),
  })
  for (const used of source.getRoot().listExtensionsUsed())
    document
      .createExtension(used.constructor as Parameters<Document['createExtension']>[0])
      .setRequired(used.isRequired())
  const resolve = createDefaultPropertyResolver(document, source)
  const copied = new Map<Property, Property>()
  const copy = <T extends Property>(property: T): T => {
    if (!copied.has(property))
      for (const [from, to] of copyToDocument(document, source, [property], resolve)) copied.set(from, to)
    return copied.get(property) as T
  }
  const kept = keptNodes(paths, wanted)
  const nodes = copyNodes(document, kept, wanted, paths, copy)
  hang(document, kept, nodes, name, frame)
  copySkins(document, kept, wanted, paths, nodes, copy)
  for (const clip of source.getRoot().listAnimations()) copyClip(document, clip, nodes, copy)
  for (const extension of document.getRoot().listExtensionsUsed())
    if (extension.listProperties().length === 0) extension.dispose()
  const numbers = new Map(
    source
      .getRoot()
      .listTextures()
      .map((t, i) => [t as Property, i]),
  )
  return {
    document,
    pictures: new Map(
      [...copied].flatMap(([from, to]) => (numbers.has(from) ? [[to, numbers.get(from)!]] : [])),
    ),
  }
}

/**
 * Nodes of a part in the order of the file: its mesh nodes, the bones that they follow, what stands above either,
 * and what hangs on them without being part of another thing (sockets, helpers).
 */
function keptNodes(paths: ReadonlyMap<Node, string>, wanted: ReadonlySet<string>): Set<Node> {
  const kept = new Set<Node>()
  const keepUp = (node: Node | null): void => {
    for (let at = node; at && !kept.has(at); at = at.getParentNode()) kept.add(at)
  }
  const isWanted = (node: Node): boolean => wanted.has(paths.get(node) ?? '')
  for (const node of paths.keys()) {
    if (!isWanted(node)) continue
    keepUp(node)
    for (const joint of node.getSkin()?.listJoints() ?? []) keepUp(joint)
    keepUp(node.getSkin()?.getSkeleton() ?? null)
  }
  const drawsNothing = (node: Node): boolean => !node.getMesh() && node.listChildren().every(drawsNothing)
  const wholly = (node: Node): boolean =>
    (node.getMesh() ? isWanted(node) : true) && node.listChildren().every(wholly)
  const keepDown = (node: Node): void => {
    kept.add(node)
    node.listChildren().forEach(keepDown)
  }
  // A helper below a node of the part goes with it; one below a node that several things share stays behind
  for (const node of [...kept])
    if (isWanted(node) || wholly(node))
      for (const child of node.listChildren()) if (!kept.has(child) && drawsNothing(child)) keepDown(child)
  return new Set([...paths.keys()].filter((n) => kept.has(n)))
}

type Copy = <T extends Property>(property: T) => T

function copyNodes(
  document: Document,
  kept: ReadonlySet<Node>,
  wanted: ReadonlySet<string>,
  paths: ReadonlyMap<Node, string>,
  copy: Copy,
): Map<Node, Node> {
  const nodes = new Map<Node, Node>()
  for (const node of kept) {
    const made = document
      .createNode(node.getName())
      .setTranslation(node.getTranslation())
      .setRotation(node.getRotation())
      .setScale(node.getScale())
      .setWeights(node.getWeights())
      .setExtras(node.getExtras())
    nodes.set(node, made)
    const own = wanted.has(paths.get(node)!)
    const mesh = own ? node.getMesh() : null
    if (mesh) made.setMesh(copy(mesh))
    // A camera or a light above several things belongs to the scene, not to each of them
    if (!own && node.listChildren().some((c) => !kept.has(c))) continue
    const camera = node.getCamera()
    if (camera) made.setCamera(copy(camera))
    for (const extension of node.listExtensions() as ExtensionProperty[])
      made.setExtension(extension.extensionName, copy(extension))
  }
  return nodes
}

/**
 * Puts the nodes under a scene, moved so that `frame` becomes the origin. Holders that other things share go, and so
 * do those of a single node; where a clip, a bone or a shear needs what stands above, that stays below a node of the
 * part's name.
 */
function hang(
  document: Document,
  kept: ReadonlySet<Node>,
  nodes: ReadonlyMap<Node, Node>,
  name: string,
  frame: Matrix4,
): void {
  const scene = document.createScene(name)
  document.getRoot().setDefaultScene(scene)
  const back = invertAffine(frame)!
  const moving = needed(kept)
  for (const node of kept)
    for (const child of node.listChildren()) if (kept.has(child)) nodes.get(node)!.addChild(nodes.get(child)!)
  for (const node of kept) {
    const parent = node.getParentNode()
    if (parent && kept.has(parent)) continue
    for (const top of belowHolders(node, kept, moving)) {
      const made = nodes.get(top)!
      const local = multiplyMatrices(back, top.getWorldMatrix())
      if (!moving.has(top) && isPlain(local)) scene.addChild(setMatrix(made, local))
      else scene.addChild(under(document, top, made, name, back))
    }
  }
  for (const node of kept) {
    const made = nodes.get(node)!
    if (!made.getParentNode() && !made.listParents().includes(scene)) made.dispose()
  }
}

/** A node below copies of what stands above it, moved by `back`; itself where nothing does. */
function under(document: Document, top: Node, made: Node, name: string, back: Matrix4): Node {
  const parent = top.getParentNode()
  const above = parent ? multiplyMatrices(back, parent.getWorldMatrix()) : back
  made.detach()
  if (isIdentity(above)) return made
  const holder = document.createNode(name)
  if (isPlain(above)) return setMatrix(holder, above).addChild(made)
  setMatrix(holder, back)
  const chain: Node[] = []
  for (let at = parent; at; at = at.getParentNode()) chain.unshift(at)
  let last = holder
  for (const at of chain) {
    const copy = document
      .createNode(at.getName())
      .setTranslation(at.getTranslation())
      .setRotation(at.getRotation())
      .setScale(at.getScale())
    last.addChild(copy)
    last = copy
  }
  last.addChild(made)
  return holder
}

/** Nodes that a clip moves or that are bones, with everything above them. */
function needed(kept: ReadonlySet<Node>): ReadonlySet<Node> {
  const needed = new Set<Node>()
  const up = (node: Node | null): void => {
    for (let at = node; at && kept.has(at) && !needed.has(at); at = at.getParentNode()) needed.add(at)
  }
  for (const node of kept) {
    for (const joint of node.getSkin()?.listJoints() ?? []) up(joint)
    if (node.listParents().some((p) => p.propertyType === 'AnimationChannel')) up(node)
  }
  return needed
}

/** A node, or those below it where it only holds what other things have a part in, or a single node. */
function belowHolders(node: Node, kept: ReadonlySet<Node>, moving: ReadonlySet<Node>): Node[] {
  const below = node.listChildren().filter((c) => kept.has(c))
  const isHolder =
    !node.getMesh() && !node.getCamera() && node.listExtensions().length === 0 && !moving.has(node)
  const isShared = below.length < node.listChildren().length
  if (!isHolder || below.length === 0 || (below.length > 1 && !isShared)) return [node]
  return below.flatMap((child) => belowHolders(child, kept, moving))
}

/** A matrix that a translation, a turn and a scale give back; one with a shear is none. */
function isPlain(m: Matrix4): boolean {
  const dot = (a: number, b: number): number => m[a]! * m[b]! + m[a + 1]! * m[b + 1]! + m[a + 2]! * m[b + 2]!
  const length = (a: number): number => Math.sqrt(dot(a, a))
  return (
    [
      [0, 4],
      [0, 8],
      [4, 8],
    ] as const
  ).every(([a, b]) => Math.abs(dot(a, b)) <= 1e-5 * length(a) * length(b))
}

const isIdentity = (m: Matrix4): boolean =>
  Array.from(m).every((v, i) => Math.abs(v - (i % 5 === 0 ? 1 : 0)) < 1e-9)

/** Sets a node's place; what rounding leaves of an identity is cleaned away. */
function setMatrix(node: Node, matrix: Matrix4): Node {
  const clean = Array.from(matrix, (v) => (Math.abs(v - Math.round(v)) < 1e-12 ? Math.round(v) : v))
  return node.setMatrix(clean as Parameters<Node['setMatrix']>[0])
}

function copySkins(
  document: Document,
  kept: ReadonlySet<Node>,
  wanted: ReadonlySet<string>,
  paths: ReadonlyMap<Node, string>,
  nodes: ReadonlyMap<Node, Node>,
  copy: Copy,
): void {
  const made = new Map<Property, ReturnType<Document['createSkin']>>()
  for (const node of kept) {
    const skin = node.getSkin()
    if (!skin || !wanted.has(paths.get(node)!)) continue
    let own = made.get(skin)
    if (!own) {
      own = document.createSkin(skin.getName()).setExtras(skin.getExtras())
      const matrices = skin.getInverseBindMatrices()
      if (matrices) own.setInverseBindMatrices(copy(matrices))
      const skeleton = skin.getSkeleton()
      if (skeleton) own.setSkeleton(nodes.get(skeleton) ?? null)
      for (const joint of skin.listJoints()) own.addJoint(nodes.get(joint)!)
      made.set(skin, own)
    }
    nodes.get(node)!.setSkin(own)
  }
}

/** A clip with the channels that move a node of the part; none: no clip. */
function copyClip(document: Document, clip: Animation, nodes: ReadonlyMap<Node, Node>, copy: Copy): void {
  const own = clip.listChannels().filter((c) => {
    const target = c.getTargetNode()
    return target !== null && nodes.has(target) && !nodes.get(target)!.isDisposed()
  })
  if (own.length === 0) return
  const made = document.createAnimation(clip.getName()).setExtras(clip.getExtras())
  for (const channel of own) {
    const sampler = channel.getSampler()
    const path = channel.getTargetPath()
    if (!sampler?.getInput() || !sampler.getOutput() || !path) continue
    const ownSampler = document
      .createAnimationSampler(sampler.getName())
      .setInterpolation(sampler.getInterpolation())
      .setInput(copy(sampler.getInput()!))
      .setOutput(copy(sampler.getOutput()!))
    made
      .addSampler(ownSampler)
      .addChannel(
        document
          .createAnimationChannel(channel.getName())
          .setTargetPath(path)
          .setTargetNode(nodes.get(channel.getTargetNode()!)!)
          .setSampler(ownSampler),
      )
  }
}
