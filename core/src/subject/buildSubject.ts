import {
  invariant,
  nothingNoted,
  textureRoles,
  type Fault,
  type MeshFacts,
  type Origin,
  type Rulebook,
  type SlotInput,
  type StoredError,
  type TextureFacts,
  type TextureRole,
} from '@stern-gate/contract'
import { fileName, fileStem, resolveReference } from '../read/deliveryPath'
import { classWithNotes } from '../rulebook/classWithNotes'
import { classOfAsset } from '../rulebook/classOfAsset'
import { originOf } from '../rulebook/originOf'
import { rulebookFor } from '../rulebook/rulebookFor'
import { detailInputs, layerInputs } from '../scene/addedInputs'
import { partsOfMesh } from '../scene/meshParts'
import { wordsOfName } from '../rulebook/nameWords'
import { matchName } from '../rulebook/pattern'
import { patternOf } from '../rulebook/patternCache'
import { roleOfWords } from '../rulebook/textureRole'
import { roleByContent } from '../rulebook/roleByContent'
import { joinBounds } from '../geometry/pointBounds'
import { factsOverUsed, usedMask } from './usedMask'
import { drawnPrimitives } from './drawnPrimitives'
import { namedThings } from './namedThings'
import { slotShares } from './slotShares'
import { wantedError } from './storedErrors'
import type { Subject, SubjectReference, SubjectTexture } from './subject'
import { textureNames } from '../scene/textureNames'
import { tileOf, tileSetsOf } from '../scene/tileNames'
import { mergeMeshFacts } from './mergeMeshFacts'
import type { AssetDraft, MeasuredFile } from '../assembly/assembleAssets'

export interface SubjectSettings {
  rulebook: Rulebook
  targetName: string
  classChoice: string | null
  /** Other names in the project, which proposals must not take. */
  taken: ReadonlySet<string>
  /** Names that were offered to other assets already; none where each is judged by itself. */
  offered?: Subject['naming']['offered']
  /** First part of names in the project; null: the class stands in. */
  family: string | null
  /** Where the version before stood. */
  previous?: Subject['previous']
  /** Where it came from, as a person said of it. */
  origin?: Origin | null
}

/** Puts together what the rules see of one asset, from the facts of its files. */
export function buildSubject(
  draft: AssetDraft,
  files: readonly MeasuredFile[],
  settings: SubjectSettings,
): Subject {
  const own = ownFiles(draft, files)
  const { targetName } = settings,
    rulebook = rulebookFor(settings.rulebook, draft.cameAs ?? draft.main)
  const target = rulebook.targets[targetName] ?? rulebook.targets[rulebook.defaultTarget]!
  const { className, from } = classOfAsset(rulebook, {
    choice: settings.classChoice,
    path: draft.cameAs ?? draft.main,
    name: draft.name,
  })
  const mesh = meshOf(draft, own)
  const uses = usesByImage(mesh)
  const textures = subjectTextures(mesh, own, uses, { rulebook, target })
  const parts = partsOfMesh(mesh?.nodes ?? [])
  return {
    name: draft.name,
    kind: draft.kind,
    path: draft.main,
    className,
    class: classWithNotes(rulebook.classes[className]!, mesh?.file.notes ?? nothingNoted),
    classFrom: from,
    targetName,
    target,
    rulebook,
    mesh,
    parts,
    primitives: drawnPrimitives(parts),
    bounds: joinBounds(parts.finest.map((n) => n.bounds)),
    slotShares: slotShares(parts.finest),
    things: namedThings({ name: draft.name, kind: draft.kind, parts, textures, mesh }),
    textures,
    tileSets: tileSetsOf(textures),
    files: own.files,
    standard: standardOf(own),
    references: mesh ? references(mesh, uses, own.paths) : [],
    origin: originOf(rulebook, draft.cameAs ?? draft.main, settings.origin ?? null),
    refused: own.refused,
    previous: settings.previous ?? null,
    naming: {
      family: settings.family ?? ownFamily(rulebook, draft.name) ?? className.replace(/[^a-z0-9]/g, ''),
      taken: settings.taken,
      offered: settings.offered ?? NONE,
    },
  }
}

const NONE: ReadonlySet<string> = new Set()

/** The family that an asset's own name has, where it fits the pattern. */
function ownFamily(rulebook: Rulebook, name: string): string | null {
  const pattern = patternOf(rulebook.patterns.mesh),
    match = pattern.ok ? matchName(pattern.value, name) : null
  return match?.fits ? (match.parts['family'] ?? null) : null
}

function standardOf({ main, others }: OwnFiles): Subject['standard'] {
  const found: Subject['standard'] = []
  for (const file of main ? [main, ...others] : others)
    if (file.standard) found.push({ file: file.path, facts: file.standard })
  return found
}

/** The mesh of an asset, of one file or of several; null where it has none. */
export const meshOf = (draft: AssetDraft, { main, others }: OwnFiles): MeshFacts | null =>
  draft.kind === 'mesh'
    ? mergeMeshFacts(
        main?.facts as MeshFacts,
        others.map((f) => ({ path: f.path, facts: f.facts as MeshFacts })),
      )
    : null

/** Files of one asset by what they are to it. */
export interface OwnFiles {
  main: MeasuredFile | undefined
  /** Further mesh files that could be read. */
  others: MeasuredFile[]
  textures: MeasuredFile[]
  files: Subject['files']
  paths: string[]
  /** Faults of all but the textures, which carry theirs. */
  refused: Fault[]
}

/**
 * Lists are filled by pushing here and below: so they are of one kind for the engine, whichever way it
 * compiled this, and the rules that walk them are compiled once.
 */
export function ownFiles(draft: AssetDraft, measured: readonly MeasuredFile[]): OwnFiles {
  const own: OwnFiles = { main: undefined, others: [], textures: [], files: [], paths: [], refused: [] }
  for (const { path, part } of draft.files) {
    const file = measured.find((f) => f.path === path)
    invariant(file, `asset ${draft.name} names a file that was not measured`)
    own.files.push({ path, kind: file.kind, sha256: file.sha256, part })
    own.paths.push(path)
    if (path === draft.main) own.main = file
    else if (part === 'mesh' && file.facts?.kind === 'mesh') own.others.push(file)
    if (part === 'texture') own.textures.push(file)
    else if (file.fault) own.refused.push(file.fault)
  }
  return own
}

/** Pictures inside the mesh first, then the files, each under the name that remedies know too. */
function subjectTextures(
  mesh: MeshFacts | null,
  own: OwnFiles,
  uses: UsesByImage,
  settled: Pick<Subject, 'rulebook' | 'target'>,
): SubjectTexture[] {
  const found: SubjectTexture[] = [],
    paths: string[] = []
  for (const { path } of own.textures) paths.push(path)
  const images = mesh?.file.images ?? [],
    embedded = images.filter((i) => i.embedded)
  const names = textureNames(
    embedded.map((i) => i.name),
    paths,
  )
  for (const [k, image] of embedded.entries()) {
    const known = embeddedFacts(own, image.sha256 ?? ''),
      fault = known && 'code' in known ? known : null
    found.push(
      subjectTexture(
        {
          name: names.embedded[k]!,
          path: null,
          embedded: true,
          sha256: image.sha256,
          facts: known && !fault ? (known as TextureFacts) : null,
          fault,
        },
        usesOf(uses, [image.index]),
        { mesh, used: ofMeshes(own, 'used'), stored: ofMeshes(own, 'stored'), ...settled },
      ),
    )
  }
  const asked = askedBy(images, paths)
  own.textures.forEach(({ path, sha256, facts, fault, used = {}, stored = {} }, k) => {
    found.push(
      subjectTexture(
        { name: names.files[k]!, path, embedded: false, sha256, facts: facts as TextureFacts | null, fault },
        usesOf(uses, asked.get(path) ?? []),
        { mesh, used, stored, ...settled },
      ),
    )
  })
  return found
}

type Used = NonNullable<MeasuredFile['used']>

/** What was measured later of the pictures inside the mesh files. */
const ofMeshes = <K extends 'used' | 'stored'>(
  { main, others }: OwnFiles,
  field: K,
): NonNullable<MeasuredFile[K]> =>
  Object.assign({}, ...[main, ...others].map((f) => f?.[field] ?? {})) as NonNullable<MeasuredFile[K]>

/** Facts of a picture inside one of the mesh files, by its hash. */
function embeddedFacts({ main, others }: OwnFiles, sha256: string): TextureFacts | Fault | undefined {
  return main?.embedded[sha256] ?? others.find((f) => f.embedded[sha256] !== undefined)?.embedded[sha256]
}

/** Which pictures of a mesh ask for each file. */
export function askedBy(
  images: MeshFacts['file']['images'],
  paths: readonly string[],
): ReadonlyMap<string, number[]> {
  const asked = new Map<string, number[]>()
  for (const { uri, index } of images) {
    const found = uri === null ? null : resolveReference(uri, paths)
    if (!found) continue
    const known = asked.get(found.path)
    if (known) known.push(index)
    else asked.set(found.path, [index])
  }
  return asked
}

/** What a texture is seen with. */
interface AroundTexture extends Pick<Subject, 'rulebook' | 'target' | 'mesh'> {
  used: Used
  stored: NonNullable<MeasuredFile['stored']>
}

function subjectTexture(
  {
    name,
    path,
    embedded,
    sha256,
    facts,
    fault,
  }: Pick<SubjectTexture, 'name' | 'path' | 'embedded' | 'sha256' | 'facts' | 'fault'>,
  uses: SubjectTexture['uses'],
  { mesh, used, stored, rulebook, target }: AroundTexture,
): SubjectTexture {
  const mask = facts?.channels ? usedMask(mesh, uses, sha256) : null,
    seen = facts && mask ? factsOverUsed(facts, used[mask.key]) : facts
  const stem = fileStem(name),
    words = wordsOfName(stem)
  const fromInput = roleOfInputs(uses),
    stated = fromInput ? null : statedRole(facts?.header.statedRole),
    // What feeds an input of an extension carries what that input takes, whatever its name says
    byName = uses.length > 0 ? null : roleOfWords(rulebook, words.all),
    role = fromInput ?? stated ?? byName
  const wanted = wantedError({ target, mesh }, { path, facts, role, uses, sha256 })
  return {
    name,
    stem,
    words,
    path,
    embedded,
    sha256,
    facts: seen,
    fault,
    uses,
    role,
    roleFrom: fromInput ? 'input' : stated ? 'file' : role ? 'name' : 'unknown',
    tile: tileOf(stem),
    content: seen ? roleByContent(seen) : null,
    unmeasured: mask && !(mask.key in used) ? mask : null,
    asStored: wanted ? lossOf(stored[wanted.key], seen) : null,
  }
}

/** From here on the pixels of a picture are vectors, whatever its role says. */
const SURE_OF_VECTORS = 0.5

/** A loss as it was measured; of what is no normal map by its pixels, angles say nothing. */
function lossOf(stored: StoredError | undefined, facts: TextureFacts | null): StoredError | null {
  if (!stored) return null
  const isNormalMap = (facts?.normal?.isNormalMap ?? 0) >= SURE_OF_VECTORS
  return isNormalMap ? stored : { ...stored, angle: null }
}

const statedRole = (text: string | null | undefined): TextureRole | null =>
  text ? (textureRoles.find((r) => r === text) ?? null) : null

/** Inputs of slots by the picture that feeds them. */
type UsesByImage = ReadonlyMap<number, SubjectTexture['uses']>

export function usesByImage(mesh: MeshFacts | null): UsesByImage {
  const uses = new Map<number, SubjectTexture['uses']>()
  for (const slot of mesh?.slots ?? [])
    for (const { image, input, field, channel, placement } of slot.textures) {
      if (image === null) continue
      const [u, v] = placement?.tiling ?? [1, 1]
      const use = { slot: slot.name, input, field, channel, repeats: Math.sqrt(Math.abs(u * v)) },
        known = uses.get(image)
      if (known) known.push(use)
      else uses.set(image, [use])
    }
  return uses
}

export const usesOf = (uses: UsesByImage, images: readonly number[]): SubjectTexture['uses'] =>
  images.length === 1 ? (uses.get(images[0]!) ?? []) : images.flatMap((i) => uses.get(i) ?? [])

/** Inputs of a second layer and a detail map that take normal maps. */
const addedNormals: ReadonlySet<string> = new Set([layerInputs.normalTexture, detailInputs.normalTexture])

function roleOfInputs(uses: SubjectTexture['uses']): TextureRole | null {
  const fed = (input: SlotInput): boolean => uses.some((u) => u.input === input)
  if (fed('orm') || (fed('metallic-roughness') && fed('occlusion'))) return 'orm'
  const first = uses.find((u) => u.input !== 'other')?.input
  if (first === undefined) return uses.some((u) => addedNormals.has(u.field)) ? 'normal' : null
  return first === 'metallic-roughness' ? 'orm' : (first as TextureRole)
}

function references(mesh: MeshFacts, uses: UsesByImage, paths: string[]): SubjectReference[] {
  const joined = new Map<string, SubjectReference>()
  const add = (
    kind: SubjectReference['kind'],
    asked: string | null,
    unsafe: string | null,
    fed: SubjectTexture['uses'],
  ): void => {
    if (asked === null) return
    const slots = fed.map(({ slot, input }) => ({ slot, input })),
      known = joined.get(asked)
    if (known) return void known.slots.push(...slots)
    const found = resolveReference(asked, paths)
    joined.set(asked, { kind, asked, unsafe, slots, resolved: found?.path ?? null, how: found?.how ?? null })
  }
  for (const { uri } of mesh.file.buffers) add('buffer', uri, null, [])
  for (const { uri } of mesh.file.companions) add('library', uri, null, [])
  for (const { uri, unsafe, index } of mesh.file.images) add('image', uri, unsafe, usesOf(uses, [index]))
  return [...joined.values()]
}

/** So many names, and this share of all, must begin with one part before it is the custom of a project. */
const LEAST_NAMES = 3
const LEAST_SHARE = 0.5

/**
 * The first part that the names of a project share, where most of them do. Null where there is no such custom:
 * a name takes no part from other things that merely came along with it.
 */
export function commonFamily(names: readonly string[]): string | null {
  const counts = new Map<string, number>()
  for (const name of names) {
    const family = /^([a-z0-9]+)_/.exec(fileName(name))?.[1]
    if (family) counts.set(family, (counts.get(family) ?? 0) + 1)
  }
  const [family, count] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0] ?? [null, 0]
  return count >= LEAST_NAMES && count > names.length * LEAST_SHARE ? family : null
}

/** Faults of files that no asset took up: what a delivery refused. */
export const refusedFiles = (files: readonly MeasuredFile[]): Fault[] =>
  files
    .filter((f) => f.fault !== null)
    .map((f) => ({ ...f.fault!, where: { ...f.fault!.where, file: f.path } }))
