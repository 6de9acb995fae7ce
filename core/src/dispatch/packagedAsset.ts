import type {
  AssetClass,
  AssetKind,
  FilePart,
  Finding,
  PackagedAsset,
  PackagedFile,
  Target,
} from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { meshPart } from '../scene/meshParts'
import { findRemedy } from '../remedies/index'
import { trianglesOf } from '../subject/drawnPrimitives'
import type { Subject } from '../subject/subject'
import { packagePaths } from './packagePaths'
import type { PassStep } from './targetPass'

/** An asset that is clear for the target, with its files where they stood. */
export interface ClearAsset extends Pick<
  PackagedAsset,
  'id' | 'name' | 'class' | 'version' | 'recipe' | 'made' | 'lightmap' | 'levels' | 'origin' | 'carryOver'
> {
  kind: AssetKind
  /** Path of its mesh, or of the first texture of a set. */
  main: string
  files: readonly (Omit<PackagedFile, 'part'> & { part: FilePart })[]
  findings: readonly Finding[]
}

/**
 * What the manifest says of an asset, its files with their paths in the package and in the same order; `taken`
 * holds the folders of other assets (see packagePaths).
 */
export function packagedAsset(
  target: string,
  { findings, main, files, ...asset }: ClearAsset,
  taken: Set<string>,
): PackagedAsset {
  const paths = packagePaths(target, { name: asset.name, kind: asset.kind, files }, taken)
  const count = (level: Finding['level']): number => findings.filter((f) => f.level === level).length
  return {
    ...asset,
    verdict: 'clear',
    cautions: count('caution'),
    notes: count('note'),
    main: paths[
      Math.max(
        0,
        files.findIndex((f) => f.path === main),
      )
    ]!,
    files: files.map((file, i) => ({ ...file, part: packagedPart(file), path: paths[i]! })),
    encoded: [],
    notEncoded: [],
  }
}

/** A mesh file with the name of a level or of collision is that. */
function packagedPart({ path, part }: { path: string; part: FilePart }): PackagedFile['part'] {
  if (part !== 'mesh') return part
  const named = meshPart(fileStem(path))
  return named.kind === 'collision' ? 'collision' : named.level > 0 ? 'level' : 'mesh'
}

/** What the manifest says of an asset's lightmap: the channel where its receiver looks, else that of its class. */
export const packagedLightmap = (
  of: AssetClass | undefined,
  target: Target | undefined,
): PackagedAsset['lightmap'] =>
  of?.lightmap
    ? {
        channel: target?.conventions.lightmapChannel ?? of.lightmapChannel,
        texels: of.lightmapTexels,
      }
    : null

/** What the manifest says of an asset's levels; they may go out as files that cannot say where they are switched. */
export function packagedLevels({ parts, mesh }: Pick<Subject, 'parts' | 'mesh'>): PackagedAsset['levels'] {
  const coverages = mesh?.chain?.coverages ?? null
  if (parts.levels.size < 2 && coverages === null) return []
  return [...parts.levels].map(([level, nodes], at) => ({
    level,
    triangles: trianglesOf(nodes),
    coverage: coverages?.[at] ?? null,
  }))
}

/** A step of a recipe or of a target pass as the manifest says it. */
export const packagedStep = ({ remedy, options }: PassStep): PackagedAsset['recipe'][number] => ({
  remedy,
  version: findRemedy(remedy)?.version ?? 0,
  options,
})
