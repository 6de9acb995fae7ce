import type { MeshFacts, Recipe, RecipeStep, SlotFacts, SurfaceFile } from '@stern-gate/contract'
import { fileName, fileStem } from '../read/deliveryPath'
import { stepsOfSurfaceFile } from './surfaceFile'

/** A surface file that came, by its path. */
export interface CameSurface {
  path: string
  file: SurfaceFile
}

/** A mesh that came, as far as surface files need it. */
export interface WearingMesh {
  /** Of the asset. */
  name: string
  /** Of its mesh. */
  path: string
  slots: readonly SlotFacts[]
  images: MeshFacts['file']['images']
  /** Paths of its textures. */
  textures: readonly string[]
}

const folderOf = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1)

/**
 * Meshes that a surface file is for: those in its folder with a slot of that name – of several the ones whose name
 * stands in that of the file –, or the only one elsewhere.
 */
export function wearersOf<T extends WearingMesh>({ path, file }: CameSurface, meshes: readonly T[]): T[] {
  const worn = meshes.filter((m) => m.slots.some((s) => s.name === file.slot))
  const beside = worn.filter((m) => folderOf(m.path) === folderOf(path))
  if (beside.length === 0) return worn.length === 1 ? worn : []
  const called = fileName(path).toLowerCase()
  const named = beside.filter(
    (m) => called.includes(m.name.toLowerCase()) || called.includes(fileStem(m.path).toLowerCase()),
  )
  return named.length > 0 ? named : beside
}

/** What a step that came of a surface file says of itself. */
const whyOf = (path: string): string => `${WHY} ${fileName(path)}`
const WHY = 'surface file'

/**
 * The recipe with what a surface file says of a slot. Steps that an earlier surface file brought are replaced; what
 * somebody set by hand stays. The very same recipe where nothing changes. `newId` gives ids to new steps.
 */
export function withSurfaceFile(
  recipe: Recipe,
  { path, file }: CameSurface,
  mesh: WearingMesh,
  newId: () => string,
): Recipe {
  const slot = mesh.slots.find((s) => s.name === file.slot)
  if (!slot) return recipe
  const nameOf = (asked: string): string | null => {
    const found = mesh.textures.find((t) => fileName(t) === fileName(asked))
    return found === undefined ? null : fileName(found)
  }
  let steps = recipe.steps
  for (const { remedy, options } of stepsOfSurfaceFile(file, slot, nameOf)) {
    if (remedy === 'slots/feed' && feedsAlready(options, slot, mesh)) continue
    const there = steps.find(
      (s) =>
        s.remedy === remedy && s.options['slot'] === slot.name && s.options['input'] === options['input'],
    )
    if (there && !there.why.startsWith(WHY)) continue
    const step: RecipeStep = {
      id: there?.id ?? newId(),
      remedy,
      options,
      on: there?.on ?? true,
      why: whyOf(path),
    }
    if (there && sameStep(there, step)) continue
    steps = there ? steps.map((s) => (s === there ? step : s)) : [...steps, step]
  }
  return steps === recipe.steps ? recipe : { ...recipe, steps }
}

/** Whether every input that the step feeds has that very file. */
function feedsAlready(options: RecipeStep['options'], slot: SlotFacts, { images }: WearingMesh): boolean {
  const has = new Set(
    slot.textures.flatMap(({ image }) => {
      const uri = images.find((i) => i.index === image)?.uri
      return uri ? [fileName(uri)] : []
    }),
  )
  return Object.entries(options).every(([key, name]) => key === 'slot' || has.has(String(name)))
}

/** A database gives options in an order of its own. */
const sameStep = (a: RecipeStep, b: RecipeStep): boolean =>
  a.why === b.why &&
  JSON.stringify(Object.entries(a.options).sort()) === JSON.stringify(Object.entries(b.options).sort())
