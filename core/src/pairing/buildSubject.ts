import { invariant, textureRoles, type Fault, type MeshFacts, type Rulebook, type SlotInput, type TextureFacts, type TextureRole } from '@stern-gate/contract'
import { fileName, resolveReference } from '../read/deliveryPath'
import { classOfAsset } from '../rulebook/classOfAsset'
import { partsOfMesh } from '../measure/meshParts'
import { roleOfName } from '../rulebook/textureRole'
import type { Subject, SubjectReference, SubjectTexture } from '../rules/subject'
import { textureNames } from '../scene/textureNames'
import { tileOf, tileSetsOf } from '../scene/tileNames'
import { mergeMeshFacts } from './mergeMeshFacts'
import type { AssetDraft, MeasuredFile } from './assembleAssets'

export interface SubjectSettings {
  rulebook: Rulebook
  targetName: string
  classChoice: string | null
  /** Other names in the project, which proposals must not take. */
  taken: ReadonlySet<string>
  /** First part of names in the project; null: the class stands in. */
  family: string | null
}

/** Puts together what the rules see of one asset, from the facts of its files. */
export function buildSubject(draft: AssetDraft, files: readonly MeasuredFile[], settings: SubjectSettings): Subject {
  const own = draft.files.map((part) => {
    const file = files.find((f) => f.path === part.path)
    invariant(file, `asset ${draft.name} names a file that was not measured`)
    return { ...file, part: part.part }
  })
  const { rulebook, targetName } = settings
  const target = rulebook.targets[targetName] ?? rulebook.targets[rulebook.defaultTarget]!
  const { className, from } = classOfAsset(rulebook, { choice: settings.classChoice, path: draft.main, name: draft.name })
  const main = own.find((f) => f.path === draft.main)
  const others = own.filter((f) => f.part === 'mesh' && f.path !== draft.main && f.facts?.kind === 'mesh')
  const mesh = draft.kind === 'mesh' ? mergeMeshFacts(main?.facts as MeshFacts, others.map((f) => ({ path: f.path, facts: f.facts as MeshFacts }))) : null
  const meshFiles = [...(main ? [main] : []), ...others]
  const textures = subjectTextures(mesh, meshFiles, own.filter((f) => f.part === 'texture'), rulebook)
  return {
    name: draft.name, kind: draft.kind, path: draft.main,
    className, class: rulebook.classes[className]!, classFrom: from,
    targetName, target, rulebook, mesh,
    parts: mesh?.nodes ? partsOfMesh(mesh.nodes) : { levels: new Map(), collision: [] },
    textures, tileSets: tileSetsOf(textures),
    files: own.map(({ path, kind, sha256, part }) => ({ path, kind, sha256, part: part as 'mesh' })),
    references: mesh ? references(mesh, own) : [],
    refused: own.filter((f) => f.part !== 'texture' && f.fault).map((f) => f.fault!),
    naming: { family: settings.family ?? className.replace(/[^a-z0-9]/g, ''), taken: settings.taken },
  }
}

type OwnFile = MeasuredFile & { part: string }

/** Pictures inside the mesh first, then the files, each under the name that remedies know too. */
function subjectTextures(mesh: MeshFacts | null, meshFiles: OwnFile[], files: OwnFile[], rulebook: Rulebook): SubjectTexture[] {
  const paths = files.map((f) => f.path)
  const embedded = (mesh?.file.images ?? []).filter((i) => i.embedded)
  const names = textureNames(embedded.map((i) => i.name), paths)
  const inside = embedded.map((image, k) => {
    const known = meshFiles.map((f) => f.embedded[image.sha256 ?? '']).find((k) => k !== undefined)
    const fault = known && 'code' in known ? known : null
    return { name: names.embedded[k]!, path: null, embedded: true, sha256: image.sha256, facts: known && !fault ? (known as TextureFacts) : null, fault, images: [image.index] }
  })
  const beside = files.map((file, k) => ({
    name: names.files[k]!, path: file.path, embedded: false, sha256: file.sha256, facts: file.facts as TextureFacts | null, fault: file.fault,
    images: (mesh?.file.images ?? []).filter((i) => i.uri !== null && resolveReference(i.uri, paths)?.path === file.path).map((i) => i.index),
  }))
  return [...inside, ...beside].map(({ images, ...texture }) => {
    const uses = usesOf(mesh, images)
    const fromInput = roleOfInputs(uses.map((u) => u.input))
    const fromName = roleOfName(rulebook, texture.name)
    const stated = textureRoles.find((r) => r === texture.facts?.header.statedRole) ?? null
    return { ...texture, uses, role: fromInput ?? stated ?? fromName, roleFrom: fromInput ? 'input' : stated ? 'file' : fromName ? 'name' : 'unknown', tile: tileOf(texture.name) } satisfies SubjectTexture
  })
}

const usesOf = (mesh: MeshFacts | null, images: number[]): SubjectTexture['uses'] =>
  (mesh?.slots ?? []).flatMap((slot) => slot.textures.filter((t) => t.image !== null && images.includes(t.image)).map((t) => ({ slot: slot.name, input: t.input, field: t.field, channel: t.channel })))

function roleOfInputs(inputs: SlotInput[]): TextureRole | null {
  if (inputs.includes('orm') || (inputs.includes('metallic-roughness') && inputs.includes('occlusion'))) return 'orm'
  const first = inputs.find((i) => i !== 'other')
  if (first === undefined) return null
  return first === 'metallic-roughness' ? 'orm' : (first as TextureRole)
}

function references(mesh: MeshFacts, own: OwnFile[]): SubjectReference[] {
  const paths = own.map((f) => f.path)
  const buffers = mesh.file.buffers.flatMap((b) => (b.uri === null ? [] : [{ kind: 'buffer' as const, asked: b.uri, unsafe: null as string | null, slots: [] as SubjectReference['slots'] }]))
  const images = mesh.file.images.flatMap((i) => (i.uri === null ? [] : [{ kind: 'image' as const, asked: i.uri, unsafe: i.unsafe, slots: usesOf(mesh, [i.index]).map(({ slot, input }) => ({ slot, input })) }]))
  const libraries = mesh.file.companions.map((c) => ({ kind: 'library' as const, asked: c.uri, unsafe: null as string | null, slots: [] as SubjectReference['slots'] }))
  const joined = new Map<string, SubjectReference>()
  for (const reference of [...buffers, ...libraries, ...images]) {
    const known = joined.get(reference.asked)
    if (known) known.slots.push(...reference.slots)
    else {
      const found = resolveReference(reference.asked, paths)
      joined.set(reference.asked, { ...reference, resolved: found?.path ?? null, how: found?.how ?? null })
    }
  }
  return [...joined.values()]
}

/** The first part that most names of a project share; null when no name has two parts. */
export function commonFamily(names: readonly string[]): string | null {
  const counts = new Map<string, number>()
  for (const name of names) {
    const family = /^([a-z0-9]+)_/.exec(fileName(name))?.[1]
    if (family) counts.set(family, (counts.get(family) ?? 0) + 1)
  }
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? null
}

/** Faults of files that no asset took up: what a delivery refused. */
export const refusedFiles = (files: readonly MeasuredFile[]): Fault[] => files.filter((f) => f.fault !== null).map((f) => ({ ...f.fault!, where: { ...f.fault!.where, file: f.path } }))
