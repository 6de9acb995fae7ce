import type { CarriedParts } from './carriedParts'
import type {
  KnownOrigin,
  AssetClass,
  AssetKind,
  Bounds,
  ClassFrom,
  Fault,
  MeshFacts,
  PatternKind,
  Place,
  QuadSample,
  Rulebook,
  SlotInput,
  StandardFacts,
  StoredError,
  Target,
  TextureFacts,
  TextureRole,
  FilePart,
  FileKind,
} from '@stern-gate/contract'
import type { PartsOfMesh } from '../scene/meshParts'
import type { ResolvedHow } from '../read/deliveryPath'
import type { NameWords } from '../rulebook/nameWords'
import type { TileSet } from '../scene/tileNames'
import type { DrawnPrimitives } from './drawnPrimitives'
import type { RoleByContent } from '../rulebook/roleByContent'
import type { UsedMask } from './usedMask'

/** One texture of an asset as the rules see it. */
export interface SubjectTexture {
  /** Name that findings and remedies use: the file name, made unique within the asset. */
  name: string
  /** The name without its extension, and its small words. */
  stem: string
  words: NameWords
  path: string | null
  embedded: boolean
  sha256: string | null
  facts: TextureFacts | null
  /** Why it could not be read. */
  fault: Fault | null
  /** Which slots it feeds, and as what; `repeats`: how often on the way from 0 to 1, as its placement says. */
  uses: { slot: string; input: SlotInput; field: string; channel: number; repeats: number }[]
  role: TextureRole | null
  roleFrom: 'input' | 'file' | 'name' | 'unknown'
  /** What its pixels say that it carries; null where they were not measured. */
  content: RoleByContent | null
  /** The part of it that islands use, where the figures over that are not there yet. */
  unmeasured: UsedMask | null
  /** What it loses in the format of the target; null: not measured. */
  asStored: StoredError | null
  /** Tile number, where the name ends in one and it belongs to a numbered sequence. */
  tile: number | null
}

/** A file that the mesh asked for. */
export interface SubjectReference {
  kind: 'buffer' | 'image' | 'library'
  asked: string
  resolved: string | null
  how: ResolvedHow | null
  /** Why the path is never followed; null when it is a plain relative one. */
  unsafe: string | null
  slots: { slot: string; input: SlotInput }[]
}

/** A name that one of the patterns is for. */
export interface NamedThing {
  kind: PatternKind
  what: Extract<Place, { kind: 'name' }>['what']
  /** What the pattern is held against: file names come without extension. */
  name: string
  /** Name that remedies address it by. */
  full: string
  role: string | null
  words: NameWords
}

/** What rules see: an asset with its files' facts, class, target. A rule never reads a file. */
export interface Subject {
  name: string
  kind: AssetKind
  path: string
  className: string
  /** Its class, with what is noted of the asset itself put over it. */
  class: AssetClass
  classFrom: ClassFrom
  targetName: string
  target: Target
  rulebook: Rulebook
  mesh: MeshFacts | null
  /** Nodes by level and collision; empty without a measured mesh. */
  parts: PartsOfMesh
  primitives: DrawnPrimitives
  /** Box around the finest level; null when nothing is drawn. Collision and coarser levels do not count. */
  bounds: Bounds | null
  /** Share of the surface of the finest level by slot, for the slots that it uses. */
  slotShares: ReadonlyMap<string, number>
  /** Everything that a pattern names. */
  things: readonly NamedThing[]
  textures: SubjectTexture[]
  tileSets: TileSet[]
  references: SubjectReference[]
  files: { path: string; kind: FileKind; sha256: string; part: FilePart }[]
  /** Mesh files that the open standard's validator has looked at, with what it found. */
  standard: { file: string; facts: StandardFacts }[]
  /** Where it came from, as far as anybody said. */
  origin: KnownOrigin
  /** Files of the asset that were refused. */
  refused: Fault[]
  /**
   * Where the version before stood: the box of its finest level, how its quads were cut, and what it carried besides.
   * Null for a first version, and where no versions are kept.
   */
  previous: { version: number; bounds: Bounds; quads?: QuadSample | null; carried?: CarriedParts } | null
  /**
   * For proposals and collisions: names of the other assets of the project, too, and the names that were offered
   * to some of them already.
   */
  naming: { family: string; taken: ReadonlySet<string>; offered: { has: (name: string) => boolean } }
}
