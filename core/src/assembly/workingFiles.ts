import { bad, type Fault } from '@stern-gate/contract'
import { fileName, fileStem } from '../read/deliveryPath'
import type { SetAside } from './sameModel'

/** Extensions of files that only the program reads that wrote them, by what they hold. */
const models = 'blend c4d max ma mb hip hipnc hiplc lxo skp 3dm ztl zpr zbr spp mud sldprt f3d'
const pictures = 'psd psb xcf kra clip afphoto ora sbs sbsar'

const holdsOf = new Map<string, 'model' | 'picture'>([
  ...models.split(' ').map((e) => [e, 'model'] as const),
  ...pictures.split(' ').map((e) => [e, 'picture'] as const),
])

const extensionOf = (path: string): string => /\.([^./\\]+)$/.exec(path)?.[1]?.toLowerCase() ?? ''

/** What a working file holds, told by its extension alone: such files are never opened. Null: it is none. */
export const workingFile = (path: string): 'model' | 'picture' | null =>
  holdsOf.get(extensionOf(path)) ?? null

/** Why a working file is not read, and what to ask for in its place; null where it is none. */
export function workingFileFault(path: string): Fault | null {
  const holds = workingFile(path)
  if (!holds) return null
  return bad(
    'file/working-file',
    `.${extensionOf(path)} is a working file: it is not opened here.`,
    holds === 'model'
      ? 'Ask for a glTF (.glb) with normals, UV channels, slots, clips and its textures, or for an FBX with the same.'
      : 'Ask for each map as a PNG, with 16 bits for heights and normals.',
    { file: path },
  ).fault
}

/**
 * Working files beside a mesh that was read under the same name: they are set aside for it, and refuse nothing.
 */
export const workingFilesBeside = (
  paths: readonly string[],
  meshes: readonly { main: string }[],
): SetAside[] => {
  const byStem = new Map(meshes.map((m) => [fileStem(m.main).toLowerCase(), m.main]))
  return paths.flatMap((path) => {
    const chosen = workingFile(path) === 'model' ? byStem.get(fileStem(path).toLowerCase()) : undefined
    return chosen === undefined
      ? []
      : [{ path, chosen, why: `It is the working file of ${fileName(chosen)}, by its name.` }]
  })
}
