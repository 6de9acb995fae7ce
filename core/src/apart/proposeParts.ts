import {
  apartWays,
  scenePlanSchema,
  type ApartWay,
  type Bounds,
  type Rulebook,
  type ScenePart,
  type ScenePlan,
  type SceneProposal,
} from '@stern-gate/contract'
import { joinBounds } from '../geometry/pointBounds'
import { isFigureName, isHumanSize } from './figures'
import { foldCopies, type FoldedGroup } from './foldCopies'
import { partNames } from './partNames'
import { sceneTree, type SceneNodeFacts, type SceneTree } from './sceneTree'
import { distanceFor, groupBy, wordsFor, type NodeGroup } from './ways'

/** What proposing needs of the rulebook. */
export type FigureList = Pick<Rulebook, 'figures'>

/** Every way with what it would make of a scene, nothing edited. */
export const proposeWays = (
  nodes: readonly SceneNodeFacts[],
  scene: string,
  rulebook: FigureList,
): SceneProposal[] => {
  const tree = sceneTree(nodes)
  return apartWays.map((way) => proposalOf(tree, scenePlanSchema.parse({ way }), scene, rulebook))
}

/**
 * Takes a scene apart on paper, by a plan: its way, then what a person split, joined, left out or named. `scene`
 * is the name of the file without its extension. The same nodes and plan give the same parts.
 */
export const partsByPlan = (
  nodes: readonly SceneNodeFacts[],
  plan: ScenePlan,
  scene: string,
  rulebook: FigureList,
): SceneProposal => proposalOf(sceneTree(nodes), plan, scene, rulebook)

function proposalOf(tree: SceneTree, plan: ScenePlan, scene: string, rulebook: FigureList): SceneProposal {
  const joined = joinGroups(splitGroups(groupBy(tree, plan.way, plan), plan.split), plan.joined)
  const groups = plan.copies ? foldCopies(joined) : joined.map((g) => ({ ...g, copies: [] }))
  const names = partNames(groups, scene)
  const boxes = joined.map((g) => boxOf(g))
  const figures = plan.way === 'whole' ? new Set<FoldedGroup>() : figuresAmong(groups, rulebook)
  const parts = groups.map((group, i) => partOf(group, names[i]!, plan, figures.has(group), boxes))
  return {
    way: plan.way,
    words: plan.way === 'name' ? (plan.words ?? wordsFor(tree.meshes)) : null,
    distance: plan.way === 'distance' ? (plan.distance ?? distanceFor(tree)) : null,
    parts,
  }
}

/** Takes the named groups apart: by the nodes at which they branch, else by each mesh node. */
function splitGroups(groups: readonly NodeGroup[], keys: readonly string[]): NodeGroup[] {
  if (keys.length === 0) return [...groups]
  const wanted = new Set(keys)
  return groups.flatMap((group) => {
    if (!wanted.has(keyOf(group)) || group.nodes.length < 2) return [group]
    const nodes = sceneTree(group.nodes.map((n) => ({ ...n.facts, parent: parentWithin(n, group) })))
    const within = new Map(group.nodes.map((n) => [n.path, n]))
    const pieces = groupBy(nodes, 'top', { words: null, distance: null })
    const fine = pieces.length > 1 ? pieces : groupBy(nodes, 'nodes', { words: null, distance: null })
    return splitGroups(
      fine.map((p) => ({ label: within.get(p.label.path)!, nodes: p.nodes.map((n) => within.get(n.path)!) })),
      keys.filter((k) => k !== keyOf(group)),
    )
  })
}

/** The mesh node of the same group that a node hangs on, however far up; null: none. */
function parentWithin(node: NodeGroup['label'], group: NodeGroup): string | null {
  for (let at = node.parent; at; at = at.parent)
    if (at.mesh && group.nodes.includes(at)) return group.label === at ? null : at.path
  return null
}

function joinGroups(groups: readonly NodeGroup[], joins: readonly (readonly string[])[]): NodeGroup[] {
  let all = [...groups]
  for (const keys of joins) {
    const together = all.filter((g) => keys.includes(keyOf(g)))
    const [first] = together
    if (!first || together.length < 2) continue
    // The first that was named is what the whole is called after
    const label = (together.find((g) => keyOf(g) === keys[0]) ?? first).label
    const nodes = together.flatMap((g) => g.nodes)
    all = all.flatMap((g) => (g === first ? [{ label, nodes }] : together.includes(g) ? [] : [g]))
  }
  return all
}

/** What a group is known by from one export to the next. */
export const keyOf = (group: NodeGroup): string => group.label.path

const boxOf = ({ nodes }: NodeGroup): Bounds | null => joinBounds(nodes.map((n) => n.facts.bounds))

function partOf(
  group: FoldedGroup,
  name: string,
  plan: ScenePlan,
  figure: boolean,
  boxes: readonly (Bounds | null)[],
): ScenePart {
  const key = keyOf(group),
    bounds = boxOf(group)
  const drawn = group.nodes.filter((n) => n.part.kind === 'level')
  const levels = new Set(drawn.map((n) => (n.part.kind === 'level' ? n.part.level : 0)))
  const finest = Math.min(...levels)
  const primitives = drawn
    .filter((n) => n.part.kind === 'level' && n.part.level === finest)
    .flatMap((n) => n.facts.primitives)
  return {
    key,
    name: plan.names[key] ?? name,
    nodes: group.nodes.map((n) => n.path),
    copies: group.copies.map((c) => ({ key: keyOf(c), nodes: c.nodes.map((n) => n.path) })),
    triangles: primitives.reduce((sum, p) => sum + p.triangles, 0),
    vertices: primitives.reduce((sum, p) => sum + p.vertices, 0),
    slots: [...new Set(group.nodes.flatMap((n) => n.facts.primitives.flatMap((p) => p.slot ?? [])))],
    levels: levels.size,
    collision: group.nodes.some((n) => n.part.kind === 'collision'),
    bounds,
    left: plan.left.includes(key) ? 'asked' : figure && !plan.kept.includes(key) ? 'figure' : null,
    humanSize:
      !figure &&
      boxes.length > 1 &&
      group.copies.length === 0 &&
      isHumanSize(
        bounds,
        primitives.reduce((sum, p) => sum + p.triangles, 0),
        exceptOne(boxes, bounds),
      ),
  }
}

/**
 * Reference figures by their names: one or a few among many. Where much of a scene is called so, the word means
 * the things themselves (the figures of a board game).
 */
function figuresAmong(groups: readonly FoldedGroup[], { figures }: FigureList): ReadonlySet<FoldedGroup> {
  const found = groups.filter((g) => g.nodes.some((n) => isFigureName(n.name, figures)))
  return new Set(groups.length > 1 && found.length <= Math.max(1, groups.length / 4) ? found : [])
}

/** All boxes but one that equals the given. */
function exceptOne(boxes: readonly (Bounds | null)[], box: Bounds | null): (Bounds | null)[] {
  const at = boxes.findIndex(
    (b) => b && box && b.min.every((v, k) => v === box.min[k] && b.max[k] === box.max[k]),
  )
  return boxes.filter((_, i) => i !== at)
}

/** The way that a scene is best looked at first: the one that makes several things of it, from the top. */
export const firstWay = (proposals: readonly SceneProposal[]): ApartWay =>
  proposals.find((p) => p.way !== 'whole' && p.parts.length > 1)?.way ?? 'whole'

/** Whether two nodes or more have a mesh: most assets have one, and need not be looked at further. */
export function drawsTwice(nodes: readonly SceneNodeFacts[]): boolean {
  let drawn = 0
  for (const node of nodes) if (node.primitives.length > 0 && ++drawn > 1) return true
  return false
}

/**
 * Whether a file looks like several things rather than one: at the top it has several with names of their own that
 * stand apart from one another.
 */
export function holdsSeveral(nodes: readonly SceneNodeFacts[], rulebook: FigureList): boolean {
  if (!drawsTwice(nodes)) return false
  const tree = sceneTree(nodes)
  const top = groupBy(tree, 'top', { words: null, distance: null })
  if (top.length < 2) return false
  if (figuresAmong(foldCopies(top), rulebook).size > 0) return true
  const apart = groupBy(tree, 'distance', { words: null, distance: null }).filter((g) =>
    g.nodes.some((n) => n.part.kind === 'level' && n.part.level === 0),
  )
  return apart.length > 1 && foldCopies(top).length > 1
}
