import type { ApartWay, Bounds } from '@stern-gate/contract'
import { joinBounds } from '../geometry/pointBounds'
import { nameWords } from '../rulebook/nameWords'
import { baseName } from '../scene/meshParts'
import type { SceneNode, SceneTree } from './sceneTree'

/** Mesh nodes that belong together, and the node that they are called after. */
export interface NodeGroup {
  label: SceneNode
  nodes: SceneNode[]
}

/** Settings of a way, found where none are given. */
export interface WaySettings {
  words: number | null
  distance: number | null
}

/** Groups the mesh nodes of a scene; every mesh node is in just one group. */
export function groupBy(tree: SceneTree, way: ApartWay, { words, distance }: WaySettings): NodeGroup[] {
  switch (way) {
    case 'top':
      return withMarked(topGroups(tree.roots))
    case 'groups':
      return withMarked(parentGroups(tree))
    case 'name':
      return withMarked(nameGroups(tree.meshes, words ?? wordsFor(tree.meshes)))
    case 'distance':
      return withMarked(nearGroups(tree.meshes, distance ?? distanceFor(tree)))
    case 'nodes':
      return withMarked(tree.meshes.map((node) => ({ label: node, nodes: [node] })))
    case 'whole':
      return tree.meshes.length === 0
        ? []
        : [{ label: tree.roots.find((r) => r.meshes.length > 0)!, nodes: tree.meshes }]
  }
}

/** The nodes at which a scene begins to branch: below a root that holds all of it. */
function branches(siblings: readonly SceneNode[]): SceneNode[] {
  const bearing = siblings.filter((n) => n.meshes.length > 0)
  const [only, ...more] = bearing
  if (only && more.length === 0 && !only.mesh && only.children.length > 0) return branches(only.children)
  return bearing
}

const topGroups = (siblings: readonly SceneNode[]): NodeGroup[] =>
  branches(siblings).map((node) => ({ label: node, nodes: node.meshes }))

/** The nearest node without a mesh that holds several; what hangs on the scene's own root is by itself. */
function parentGroups(tree: SceneTree): NodeGroup[] {
  const top = branches(tree.roots)[0]?.parent ?? null
  const groups = new Map<SceneNode, NodeGroup>()
  for (const node of tree.meshes) {
    let label = node
    for (let at = node.parent; at && at !== top; at = at.parent)
      if (!at.mesh) {
        label = at
        break
      } else label = at
    const group = groups.get(label) ?? { label, nodes: [] }
    group.nodes.push(node)
    groups.set(label, group)
  }
  return [...groups.values()]
}

/** Words of a name without what marks a level, a copy or a collision mesh. */
const thingWords = (node: SceneNode): readonly string[] => {
  const words = nameWords(baseName(node.name))
  const end = words.findLastIndex((w) => !/^\d+$/.test(w))
  return end < 0 ? words : words.slice(0, end + 1)
}

function nameGroups(meshes: readonly SceneNode[], words: number): NodeGroup[] {
  const groups = new Map<string, NodeGroup>()
  for (const node of meshes) {
    const key = thingWords(node).slice(0, words).join(' ') || node.path
    const group = groups.get(key) ?? { label: node, nodes: [] }
    group.nodes.push(node)
    groups.set(key, group)
  }
  return [...groups.values()]
}

/** As many first words as make the most groups of several nodes; the fewest of those. */
export function wordsFor(meshes: readonly SceneNode[]): number {
  let best = { words: 1, groups: -1 }
  for (let words = 1; words <= 4; words++) {
    const groups = nameGroups(meshes, words)
    const several = groups.length === 1 ? 0 : groups.filter((g) => g.nodes.length > 1).length
    if (several > best.groups) best = { words, groups: several }
  }
  return best.words
}

/** A fiftieth of the scene's largest side, rounded to one digit; metres. */
export function distanceFor(tree: SceneTree): number {
  const box = joinBounds(tree.meshes.map((n) => n.facts.bounds))
  const side = box ? Math.max(...[0, 1, 2].map((k) => box.max[k]! - box.min[k]!)) : 0
  return side > 0 ? Number((side / 50).toPrecision(1)) : 0
}

/** Nodes whose boxes are at most so far from one another, directly or by others between them. */
function nearGroups(meshes: readonly SceneNode[], distance: number): NodeGroup[] {
  const boxes = meshes.map((n) => n.facts.bounds)
  const leader = meshes.map((_, i) => i)
  const find = (i: number): number => (leader[i] === i ? i : (leader[i] = find(leader[i]!)))
  const order = meshes.map((_, i) => i).filter((i) => boxes[i])
  // Swept along the axis on which they spread most: then few stand beside one another
  const axis = widestAxis(order.map((i) => boxes[i]!))
  order.sort((a, b) => boxes[a]!.min[axis]! - boxes[b]!.min[axis]!)
  for (const [at, i] of order.entries())
    for (let k = at + 1; k < order.length; k++) {
      const j = order[k]!
      if (boxes[j]!.min[axis]! - boxes[i]!.max[axis]! > distance) break
      if (boxGap(boxes[i]!, boxes[j]!) <= distance)
        leader[Math.max(find(i), find(j))] = Math.min(find(i), find(j))
    }
  const groups = new Map<number, NodeGroup>()
  for (const [i, node] of meshes.entries()) {
    const group = groups.get(find(i)) ?? { label: node, nodes: [] }
    group.nodes.push(node)
    groups.set(find(i), group)
  }
  // The largest thing gives the name: a table, not the cup on it
  return [...groups.values()].map(({ nodes }) => ({ nodes, label: largest(nodes) }))
}

/** Axis on which the lower faces of boxes lie furthest apart, against the boxes' own sides. */
function widestAxis(boxes: readonly Bounds[]): 0 | 1 | 2 {
  const spread = ([0, 1, 2] as const).map((k) => {
    let least = Infinity,
      most = -Infinity,
      sides = 0
    for (const { min, max } of boxes) {
      least = Math.min(least, min[k])
      most = Math.max(most, min[k])
      sides += max[k] - min[k]
    }
    return (most - least) / (sides / boxes.length || 1)
  })
  return spread.indexOf(Math.max(...spread)) as 0 | 1 | 2
}

/** Metres between two boxes; 0 where they touch or overlap. */
export function boxGap(a: Bounds, b: Bounds): number {
  let sum = 0
  for (let k = 0; k < 3; k++) sum += Math.max(0, a.min[k]! - b.max[k]!, b.min[k]! - a.max[k]!) ** 2
  return Math.sqrt(sum)
}

function largest(nodes: readonly SceneNode[]): SceneNode {
  let best = nodes[0]!,
    most = -1
  for (const node of nodes) {
    const box = node.facts.bounds
    const size = box ? Math.hypot(...box.max.map((v, k) => v - box.min[k]!)) : 0
    if (size > most * 1.000001) [best, most] = [node, size]
  }
  return best
}

/** Levels and collision meshes that stand as groups of their own go with the thing of their name. */
function withMarked(groups: readonly NodeGroup[]): NodeGroup[] {
  const marked = (g: NodeGroup): boolean =>
    g.nodes.every((n) => n.part.kind === 'collision' || n.part.level > 0)
  const plainName = (g: NodeGroup): string => baseName(g.label.name).toLowerCase()
  const owners = new Map<string, NodeGroup>()
  // The unmarked first, then the finest of those that are all marked
  for (const group of [...groups].sort((a, b) => Number(marked(a)) - Number(marked(b))))
    if (plainName(group) !== '' && !owners.has(plainName(group)))
      owners.set(plainName(group), { ...group, nodes: [] })
  const result = new Map<NodeGroup, NodeGroup>()
  for (const group of groups) {
    const named = owners.get(plainName(group))
    const owner = named && (marked(group) || named.label === group.label) ? named : group
    const into = result.get(owner) ?? { label: owner.label, nodes: [] }
    into.nodes.push(...group.nodes)
    result.set(owner, into)
  }
  return [...result.values()]
}
