import { meshFormats, type FileKind, type MeshFacts, type MeshFilePart } from '@stern-gate/contract'
import { kindByExtension } from '../read/fileKind'
import { fileName } from '../read/deliveryPath'

export type MeshOverview = NonNullable<MeshFacts['overview']>

/** What is looked at of a mesh file to know the same model in another format. */
export interface ModelFile {
  path: string
  overview: MeshOverview | null
  /** Of the file: clips, and whether it says its unit. */
  clips: number
  unit: MeshFilePart['declared']['unitMetres']
}

/** A file that is set aside, for which one, and why in words. */
export interface SetAside {
  path: string
  chosen: string
  why: string
}

/** Sides and surface may differ by so much between exporters: rounding, and a few triangles cut otherwise. */
const SAME_SHAPE = 0.01

/**
 * Whether two files hold one model: as many triangles, and sides and surface that agree but for one scale and for
 * the order of the axes, for not all formats say their unit and which axis points up.
 */
export function isSameModel(a: MeshOverview | null, b: MeshOverview | null): boolean {
  if (!a || !b || a.triangles === 0) return false
  if (Math.abs(a.triangles - b.triangles) > SAME_SHAPE * Math.max(a.triangles, b.triangles)) return false
  const first = sorted(a.size),
    second = sorted(b.size)
  if (first[2] === 0 || second[2] === 0) return false
  const scale = second[2]! / first[2]!
  const near = (x: number, y: number, whole: number): boolean => Math.abs(x - y) <= SAME_SHAPE * whole
  return (
    first.every((v, k) => near(v * scale, second[k]!, second[2]!)) &&
    near(a.area * scale * scale, b.area, b.area * 3)
  )
}

const sorted = (size: readonly number[]): number[] => [...size].sort((x, y) => x - y)

/** What a file may carry that another of the same model does not, the weightiest first. */
const carries: readonly [words: (f: ModelFile) => string, has: (f: ModelFile) => number][] = [
  [(f) => (f.clips === 1 ? 'a clip' : `${f.clips} clips`), (f) => f.clips],
  [() => 'a skin', (f) => Number(f.overview?.skinned ?? false)],
  [
    (f) => `${f.overview!.levels} levels of detail`,
    (f) => (f.overview && f.overview.levels > 1 ? f.overview.levels : 0),
  ],
  [() => 'collision', (f) => Number(f.overview?.collision ?? false)],
  [
    (f) => (f.overview!.uvChannels === 1 ? 'a UV channel' : `${f.overview!.uvChannels} UV channels`),
    (f) => f.overview?.uvChannels ?? 0,
  ],
  [() => 'vertex colours', (f) => Number(f.overview?.colours ?? false)],
  [() => 'normals', (f) => Number(f.overview?.normals ?? false)],
  [() => 'its unit', (f) => Number(f.unit !== null)],
]

const formatRank = (f: ModelFile): number => {
  const at = (meshFormats as readonly FileKind[]).indexOf(kindByExtension(f.path))
  return at < 0 ? meshFormats.length : at
}

/**
 * Chooses among files of one model the one that carries most; the others are set aside, each with what it lacks.
 * Where they carry the same, the format that can say more of a surface is taken, then the first path.
 */
export function chooseModel<F extends ModelFile>(files: readonly F[]): { chosen: F; aside: SetAside[] } {
  const [chosen, ...others] = [...files].sort(
    (a, b) =>
      carries.map(([, has]) => has(b) - has(a)).find((d) => d !== 0) ??
      (formatRank(a) - formatRank(b) || (a.path < b.path ? -1 : 1)),
  )
  return {
    chosen: chosen!,
    aside: others.map((file) => ({ path: file.path, chosen: chosen!.path, why: whyAside(file, chosen!) })),
  }
}

function whyAside(file: ModelFile, chosen: ModelFile): string {
  const more = carries.filter(([, has]) => has(chosen) > has(file)).map(([words]) => words(chosen))
  const name = fileName(chosen.path)
  return more.length > 0
    ? `It is the same model as ${name}, which also carries ${more.join(', ')}.`
    : `It is the same model as ${name}, and carries nothing more.`
}
