import type { MeshFacts, NodeFacts, VariantFacts } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'

/** A further mesh file of an asset: a level or a collision mesh that came by itself. */
export interface OtherMesh {
  path: string
  facts: MeshFacts
}

/** Name of the node that a further mesh file hangs under; its nodes' paths begin with it. */
export const holderName = (path: string): string => fileStem(path)

/**
 * One set of facts for an asset of several mesh files. What a further file holds hangs under a node of that
 * file's name, so that its mark (level, hull) counts for all below; slots of one name are one slot. Shape is
 * that of the main file, and so is the collision fit where both stand in it.
 */
export function mergeMeshFacts(main: MeshFacts, others: readonly OtherMesh[]): MeshFacts {
  return others.reduce(addMesh, main)
}

function addMesh(sum: MeshFacts, { path, facts }: OtherMesh): MeshFacts {
  const holder = holderName(path)
  const firstImage = sum.file.images.length
  const at = (node: string): string => `${holder}/${node}`
  const known = new Set((sum.slots ?? []).map((s) => s.name))
  const slots = (facts.slots ?? [])
    .filter((s) => !known.has(s.name))
    .map((s, i) => ({
      ...s,
      index: (sum.slots?.length ?? 0) + i,
      textures: s.textures.map((t) => ({ ...t, image: t.image === null ? null : t.image + firstImage })),
    }))
  return {
    ...sum,
    file: {
      ...sum.file,
      extensionsUsed: [...new Set([...sum.file.extensionsUsed, ...facts.file.extensionsUsed])],
      extensionsLost: [...new Set([...sum.file.extensionsLost, ...facts.file.extensionsLost])],
      images: [...sum.file.images, ...facts.file.images.map((i) => ({ ...i, index: i.index + firstImage }))],
      buffers: [...sum.file.buffers, ...facts.file.buffers],
      companions: [...sum.file.companions, ...facts.file.companions],
      lost: [...new Set([...sum.file.lost, ...facts.file.lost])],
      cameras: sum.file.cameras + facts.file.cameras,
      lights: sum.file.lights + facts.file.lights,
      emptyNodes: sum.file.emptyNodes + facts.file.emptyNodes,
      strays: [...sum.file.strays, ...facts.file.strays.map((s) => ({ ...s, node: at(s.node) }))],
      skins: sum.file.skins + facts.file.skins,
      bones: sum.file.bones + facts.file.bones,
      idleBones: [...sum.file.idleBones, ...facts.file.idleBones.map(at)],
      clips: [...sum.file.clips, ...facts.file.clips],
    },
    nodes:
      sum.nodes && facts.nodes
        ? [
            ...sum.nodes,
            holderNode(holder, path),
            ...facts.nodes.map((n) => ({
              ...n,
              path: at(n.path),
              parent: n.parent === null ? holder : at(n.parent),
              copyOf: n.copyOf && { ...n.copyOf, node: at(n.copyOf.node) },
              file: path,
            })),
          ]
        : null,
    slots: [...(sum.slots ?? []), ...slots],
    islands: [...sum.islands, ...facts.islands],
    variants: joinVariants(sum.variants, facts.variants),
    decals: [...sum.decals, ...facts.decals.filter((d) => !known.has(d.slot))],
    evidence: [
      ...sum.evidence,
      ...facts.evidence.map((e) => ({
        ...e,
        name: e.name.replace(/^([^:]*):/, `$1:${holder}/`),
        file: path,
      })),
    ],
    notMeasured: [...sum.notMeasured, ...facts.notMeasured],
  }
}

/** Variants of one name are one variant, and what they exchange alike is counted together. */
function joinVariants(first: readonly VariantFacts[], more: readonly VariantFacts[]): VariantFacts[] {
  const all = new Map(first.map((v) => [v.name, [...v.choices]]))
  for (const { name, choices } of more) {
    const known = all.get(name) ?? []
    for (const choice of choices) {
      const at = known.findIndex((c) => c.slot === choice.slot && c.wears === choice.wears)
      if (at < 0) known.push(choice)
      else known[at] = { ...choice, parts: known[at]!.parts + choice.parts, of: known[at]!.of + choice.of }
    }
    all.set(name, known)
  }
  return [...all].map(([name, choices]) => ({ name, choices }))
}

const holderNode = (name: string, file: string): NodeFacts => ({
  path: name,
  name,
  parent: null,
  mesh: null,
  translation: [0, 0, 0],
  scale: [1, 1, 1],
  rotation: [0, 0, 0, 1],
  determinant: 1,
  bounds: null,
  skinned: false,
  animated: false,
  joint: false,
  level: null,
  copyOf: null,
  file,
  topology: null,
  sheets: [],
  hull: null,
  support: [],
  primitives: [],
})
