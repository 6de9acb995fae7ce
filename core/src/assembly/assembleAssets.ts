import type { AssetKind, Fault, MeshFacts, StandardFacts, TextureFacts } from '@stern-gate/contract'
import { fileStem, resolveReference } from '../read/deliveryPath'
import { withoutTile } from '../scene/tileNames'
import { isMeshKind, isTextureKind, type FileKind } from '../read/fileKind'
import { baseName, meshPart } from '../scene/meshParts'
import { nameWords } from '../rulebook/nameWords'
import { roleOfName } from '../rulebook/textureRole'
import type { Rulebook } from '@stern-gate/contract'

/** One measured file of a delivery. */
export interface MeasuredFile {
  path: string
  sha256: string
  sizeBytes: number
  kind: FileKind
  facts: MeshFacts | TextureFacts | null
  /** Facts of the pictures inside a mesh file, by their hash; a fault where one could not be read. */
  embedded: Record<string, TextureFacts | Fault>
  fault: Fault | null
  /** What the open standard's validator says of a glTF; null or absent: it has not looked yet. */
  standard?: StandardFacts | null
}

/** What grouping looks at: of a mesh what it asks for, of anything else whether it was read. */
export interface AssemblyFile {
  path: string
  kind: FileKind
  facts:
    | { kind: 'mesh'; file: Pick<MeshFacts['file'], 'buffers' | 'companions' | 'images' | 'generator'> }
    | { kind: 'texture' }
    | null
}

export type FilePart = 'mesh' | 'buffer' | 'texture'

/** Files that make one asset. */
export interface AssetDraft {
  name: string
  kind: AssetKind
  /** The mesh file, or the first texture of a set. */
  main: string
  /** Path that the main file came by, where a recipe put it elsewhere: its folders tell the class. */
  cameAs?: string
  files: { path: string; part: FilePart }[]
}

/**
 * Groups the files of a delivery: each mesh with the files it asks for and the loose textures that carry its
 * name; the other textures by their name without the role. Refused meshes make no asset; a refused texture
 * stays with the mesh that asked for it.
 */
export function assembleAssets(files: readonly AssemblyFile[], rulebook: Rulebook): AssetDraft[] {
  const paths = files.map((f) => f.path)
  const meshes = files.filter((f) => isMeshKind(f.kind) && f.facts?.kind === 'mesh')
  const used = new Set<string>()
  const drafts: AssetDraft[] = []
  for (const group of groupMeshes(meshes)) {
    const draft = meshDraft(group, paths)
    for (const file of draft.files) used.add(file.path)
    drafts.push(draft)
  }
  const owners = ownersOf(drafts, rulebook)
  for (const file of files) {
    if (!isTextureKind(file.kind) || used.has(file.path) || file.facts === null) continue
    owners.give(file.path)
  }
  return drafts
}

/**
 * Mesh files of one asset: the main one first, then its levels and collision meshes that came as files of
 * their own.
 */
function groupMeshes(meshes: readonly AssemblyFile[]): AssemblyFile[][] {
  const groups = new Map<string, AssemblyFile[]>()
  for (const mesh of meshes) {
    const key = baseName(fileStem(mesh.path)).toLowerCase()
    groups.set(key, [...(groups.get(key) ?? []), mesh])
  }
  return [...groups.values()].flatMap((group) => {
    const plain = group.filter((m) => rankOf(m) === 0)
    // Two plain files of one name in different folders are two assets; marked ones go with the first
    if (plain.length > 1)
      return [[plain[0]!, ...group.filter((m) => rankOf(m) > 0)], ...plain.slice(1).map((m) => [m])]
    return [[...group].sort((a, b) => rankOf(a) - rankOf(b))]
  })
}

/** 0 without a mark, then the levels in their order, collision last. */
function rankOf(mesh: AssemblyFile): number {
  const stem = fileStem(mesh.path),
    part = meshPart(stem)
  if (part.kind === 'collision') return 1000
  return baseName(stem) === stem ? 0 : part.level + 1
}

function meshDraft(group: readonly AssemblyFile[], paths: readonly string[]): AssetDraft {
  const main = group[0]!
  const files: AssetDraft['files'] = []
  for (const mesh of group) files.push({ path: mesh.path, part: 'mesh' })
  const add = (asked: string | null, part: FilePart) => {
    const found = asked === null ? null : resolveReference(asked, paths)
    if (found && !files.some((f) => f.path === found.path)) files.push({ path: found.path, part })
  }
  for (const mesh of group) {
    if (mesh.facts?.kind !== 'mesh') continue
    const { facts } = mesh
    for (const buffer of facts.file.buffers) add(buffer.uri, 'buffer')
    for (const companion of facts.file.companions) add(companion.uri, 'buffer')
    for (const image of facts.file.images) add(image.uri, 'texture')
  }
  const stem = fileStem(main.path)
  return {
    name: meshPart(stem).kind === 'collision' ? stem : baseName(stem),
    kind: 'mesh',
    main: main.path,
    files,
  }
}

/**
 * A loose texture goes to the asset of its name, to the mesh that uses others of its set, to the mesh whose
 * name it begins with, or begins a set.
 */
function ownersOf(drafts: AssetDraft[], rulebook: Rulebook): { give: (path: string) => void } {
  const byName = new Map<string, AssetDraft>(),
    meshes = new Map<string, AssetDraft>(),
    bySet = new Map<string, AssetDraft>()
  const note = (map: Map<string, AssetDraft>, name: string, draft: AssetDraft): void =>
    void (map.has(name.toLowerCase()) || map.set(name.toLowerCase(), draft))
  for (const draft of drafts) {
    note(byName, draft.name, draft)
    if (draft.kind === 'mesh') note(meshes, draft.name, draft)
    for (const file of draft.files)
      if (file.part === 'texture') note(bySet, setName(file.path, rulebook), draft)
  }
  // harbour_quay_a_wet belongs to harbour_quay_a; of several the longest name
  const beginning = (name: string): AssetDraft | undefined => {
    for (let end = name.length - 1; end > 0; end--) {
      const draft = /[_\-. ]/.test(name[end]!) ? meshes.get(name.slice(0, end).toLowerCase()) : undefined
      if (draft) return draft
    }
    return undefined
  }
  return {
    give(path) {
      const name = setName(path, rulebook),
        key = name.toLowerCase()
      let owner = byName.get(key) ?? bySet.get(key) ?? beginning(name)
      if (!owner) {
        owner = { name, kind: 'texture-set', main: path, files: [] }
        drafts.push(owner)
        byName.set(key, owner)
      }
      owner.files.push({ path, part: 'texture' })
      if (owner.kind === 'mesh') note(bySet, name, owner)
    },
  }
}

/** Name of a texture without its role and tile number: `harbour_net_normal` belongs to `harbour_net`. */
export function setName(path: string, rulebook: Rulebook): string {
  const stem = withoutTile(fileStem(path))
  const role = roleOfName(rulebook, stem)
  if (!role) return stem
  const cut = stem.match(/^(.*?)[_\-. ]+([^_\-. ]+)$/)
  if (!cut) return stem
  return roleOfName(rulebook, cut[2]!) !== null && nameWords(cut[1]!).length > 0 ? cut[1]! : stem
}
