import type {
  AssetKind,
  Fault,
  FilePart,
  MeshFacts,
  StandardFacts,
  StoredError,
  TextureFacts,
  UsedFacts,
  FileKind,
} from '@stern-gate/contract'
import { fileStem, resolveReference } from '../read/deliveryPath'
import { withoutTile } from '../scene/tileNames'
import { isMeshKind, isTextureKind } from '../read/fileKind'
import { baseName, meshPart } from '../scene/meshParts'
import { nameWords } from '../rulebook/nameWords'
import { roleOfName } from '../rulebook/textureRole'
import type { Rulebook } from '@stern-gate/contract'
import { chooseModel, isSameModel, type MeshOverview, type ModelFile, type SetAside } from './sameModel'

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
  /**
   * Figures over the texels that islands use, by the key of a `usedMask`; null where hardly any are used. What is absent
   * was not measured.
   */
  used?: Readonly<Record<string, UsedFacts | null>>
  /** What it loses in the format of a target, by the key of a `wantedError`. What is absent was not measured. */
  stored?: Readonly<Record<string, StoredError>>
  /** What the open standard's validator says of a glTF; null or absent: it has not looked yet. */
  standard?: StandardFacts | null
}

/** What grouping looks at: of a mesh what it asks for, of anything else whether it was read. */
export interface AssemblyFile {
  path: string
  kind: FileKind
  facts:
    | {
        kind: 'mesh'
        file: Pick<MeshFacts['file'], 'buffers' | 'companions' | 'images' | 'generator' | 'declared'> & {
          clips: { readonly length: number }
        }
        overview: MeshFacts['overview']
      }
    | { kind: 'texture' }
    | null
}

/** Files that make one asset. */
export interface AssetDraft {
  name: string
  kind: AssetKind
  /** The mesh file, or the first texture of a set. */
  main: string
  /** Path that the main file came by, where a recipe put it elsewhere: its folders tell the class. */
  cameAs?: string
  files: { path: string; part: FilePart }[]
  /** Files of the same model in another format. */
  aside?: SetAside[]
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
  const names = new Set<string>()
  for (const { files: group, aside } of groupMeshes(meshes)) {
    const draft = meshDraft(group, paths)
    draft.name = ownName(draft, names)
    names.add(draft.name.toLowerCase())
    if (aside.length > 0) draft.aside = aside
    for (const file of [...draft.files, ...aside]) used.add(file.path)
    drafts.push(draft)
  }
  const owners = ownersOf(drafts, rulebook)
  for (const file of files) {
    if (!isTextureKind(file.kind) || used.has(file.path) || file.facts === null) continue
    owners.give(file.path)
  }
  return drafts
}

/** Mesh files of one asset, and files of the same model that are set aside for the main one. */
interface MeshGroup {
  files: AssemblyFile[]
  aside: SetAside[]
}

/**
 * Mesh files of one asset: the main one first, then its levels and collision meshes that came as files of
 * their own. Of one model in several formats one file is chosen. Other models of the same name are assets of
 * their own, and the marked files go with the first.
 */
function groupMeshes(meshes: readonly AssemblyFile[]): MeshGroup[] {
  const groups = new Map<string, AssemblyFile[]>()
  for (const mesh of meshes) {
    const key = baseName(fileStem(mesh.path)).toLowerCase()
    groups.set(key, [...(groups.get(key) ?? []), mesh])
  }
  return [...groups.values()].flatMap((group) => {
    const byRank = new Map<number, AssemblyFile[]>()
    for (const mesh of group) byRank.set(rankOf(mesh), [...(byRank.get(rankOf(mesh)) ?? []), mesh])
    const [main = [], ...others] = [...byRank].sort(([a], [b]) => a - b).map(([, files]) => modelsOf(files))
    const [first, ...more] = main
    if (!first) return []
    const marked = others.flat()
    return [
      {
        files: [first.file, ...marked.map((m) => m.file)],
        aside: [...first.aside, ...marked.flatMap((m) => m.aside)],
      },
      ...more.map((m) => ({ files: [m.file], aside: m.aside })),
    ]
  })
}

/** Files of one name and rank as models, each with the files that hold it once more. */
function modelsOf(files: readonly AssemblyFile[]): { file: AssemblyFile; aside: SetAside[] }[] {
  const models: AssemblyFile[][] = []
  for (const file of files) {
    // Two files of one format may wear different surfaces: they are two things, however alike they are
    const same = models.find(
      (m) =>
        isSameModel(overviewOf(m[0]!), overviewOf(file)) &&
        m.every((other) => formatOf(other) !== formatOf(file)),
    )
    if (same) same.push(file)
    else models.push([file])
  }
  return models.map((model) => {
    if (model.length === 1) return { file: model[0]!, aside: [] }
    const { chosen, aside } = chooseModel(model.map((file) => ({ ...modelFile(file), file })))
    return { file: chosen.file, aside }
  })
}

const formatOf = ({ path }: AssemblyFile): string => path.slice(path.lastIndexOf('.')).toLowerCase()

const overviewOf = ({ facts }: AssemblyFile): MeshOverview | null =>
  facts?.kind === 'mesh' ? facts.overview : null

const modelFile = ({ path, facts }: AssemblyFile): ModelFile => ({
  path,
  overview: facts?.kind === 'mesh' ? facts.overview : null,
  clips: facts?.kind === 'mesh' ? facts.file.clips.length : 0,
  unit: facts?.kind === 'mesh' ? facts.file.declared.unitMetres : null,
})

/** 0 without a mark, then the levels in their order, collision last. */
function rankOf(mesh: AssemblyFile): number {
  const stem = fileStem(mesh.path),
    part = meshPart(stem)
  if (part.kind === 'collision') return 1000
  return baseName(stem) === stem ? 0 : part.level + 1
}

/** A name that no other mesh of the delivery has: with its folder before it, then with its format behind. */
function ownName({ name, main }: AssetDraft, taken: ReadonlySet<string>): string {
  if (!taken.has(name.toLowerCase())) return name
  const folder = main.split('/').at(-2),
    format = main.split('.').at(-1)!
  const tried = [...(folder ? [`${folder}_${name}`] : []), `${name}_${format}`]
  const free = tried.find((t) => !taken.has(t.toLowerCase()))
  if (free !== undefined) return free
  let n = 2
  while (taken.has(`${name}_${n}`.toLowerCase())) n++
  return `${name}_${n}`
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
