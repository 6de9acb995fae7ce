import type { NodeFacts, RenameFollow } from '@stern-gate/contract'
import { fileName } from '../read/deliveryPath'
import type { Subject, SubjectTexture } from './subject'

/** Whether a name is that of an asset, or begins with it as its parts do. */
export const carriesName = (name: string, asset: string): boolean =>
  name === asset || (name.startsWith(asset) && /^[_.\-]/.test(name.slice(asset.length)))

/** All that names/rename changes besides the thing itself, from the facts of an asset: nothing is applied. */
export function renameFollows(
  subject: Subject,
  { what, from }: { what: 'asset' | 'node' | 'texture' | 'slot' | 'clip'; from: string },
): RenameFollow[] {
  const nodes = subject.mesh?.nodes ?? []
  switch (what) {
    case 'asset':
      return assetFollows(subject, nodes, from)
    case 'texture':
      return subject.textures
        .filter((t) => t.name === from)
        .flatMap((t) => referencesTo(t, extensionOf(t.name)))
    case 'slot':
      return nodes
        .filter((n) => n.primitives.some((p) => p.slot === from))
        .map((n) => ({ what: 'node', from: n.path, rest: '' }))
    case 'node':
      return nodes.some((n) => n.name === from && n.animated)
        ? (subject.mesh?.file.clips ?? []).map((clip) => ({ what: 'clip', from: clip.name, rest: '' }))
        : []
    case 'clip':
      return []
  }
}

function assetFollows(subject: Subject, nodes: readonly NodeFacts[], from: string): RenameFollow[] {
  const rest = (name: string): string => name.slice(from.length)
  const carrying = <What extends RenameFollow['what']>(
    what: What,
    names: readonly string[],
  ): RenameFollow[] =>
    [...new Set(names)]
      .filter((name) => carriesName(name, from))
      .map((name) => ({ what, from: name, rest: rest(name) }))
  const textures = subject.textures.filter((t) => carriesName(t.stem, from))
  return [
    ...(subject.mesh ? [{ what: 'file' as const, from: fileName(subject.path), rest: '.glb' }] : []),
    ...carrying(
      'node',
      nodes.map((n) => n.name),
    ),
    ...carrying(
      'mesh',
      nodes.flatMap((n) => n.mesh ?? []),
    ),
    ...textures.map((t) => ({ what: 'texture' as const, from: t.name, rest: rest(t.name) })),
    ...textures.flatMap((t) => referencesTo(t, rest(t.name))),
  ]
}

/** Slots that point at a texture. */
const referencesTo = (texture: SubjectTexture, rest: string): RenameFollow[] =>
  texture.uses.map(({ slot, input }) => ({ what: 'reference', from: `${slot}, ${input}`, rest }))

const extensionOf = (name: string): string => /\.[^.]+$/.exec(name)?.[0] ?? ''
