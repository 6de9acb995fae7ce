import type { PickedPart } from '@stern-gate/contract'
import type { SightLine } from '@stern-gate/core/brush'
import type { Lasso, PickReach } from '@stern-gate/core/picker'
import { packPicked } from '@stern-gate/core/surfaces'
import { asking } from './askWorker'
import type { StageModel } from './loadModel'
import { cornersOf, joinMeshes, placesOf } from './meshPlaces'
import type { PickAnswer, PickAsk } from './pickWorker'
import type { StageMark } from './stageMarks'

/** Triangles while they are being picked on the model. */
export interface PickSession {
  /** Adds what a pick gives, or takes it out again. */
  pick: (line: SightLine, reach: PickReach, takesOut: boolean) => Promise<void>
  /** Adds what is seen within a line that was drawn, or takes it out again. */
  lasso: (lasso: Lasso, takesOut: boolean) => Promise<void>
  /** Takes back the last pick. */
  undo: () => void
  count: () => number
  marks: () => StageMark[]
  parts: () => PickedPart[]
  end: () => void
}

/** Begins to pick on what of a model has a slot; null where nothing has it. */
export async function beginPicking(model: StageModel, slot: string): Promise<PickSession | null> {
  const meshes = model.meshes.filter((m) => m.slot === slot && m.mesh.visible)
  if (meshes.length === 0) return null
  const { positions, indices, pieces } = joinMeshes(meshes.map((m) => m.mesh))
  const uvs = new Float32Array((positions.length / 3) * 2)
  meshes.forEach(({ mesh }, i) => {
    const uv = mesh.geometry.getAttribute('uv')
    for (let v = 0; uv && v < uv.count; v++) uvs.set([uv.getX(v), uv.getY(v)], (pieces[i]!.first + v) * 2)
  })
  const worker = new Worker(new URL('./pickWorker.ts', import.meta.url), { type: 'module' })
  const ask = asking<PickAsk, PickAnswer>(worker)
  await ask({ kind: 'begin', positions, uvs, indices })
  const steps: ReadonlySet<number>[] = [new Set()]
  const now = (): ReadonlySet<number> => steps.at(-1)!
  /** What is picked of each mesh, by its own numbers; meshes of which nothing is picked are left out. */
  const pickedParts = () =>
    meshes.flatMap((one, i) => {
      const { firstTriangle, triangles } = pieces[i]!
      const picked = [...now()]
        .filter((t) => t >= firstTriangle && t < firstTriangle + triangles)
        .map((t) => t - firstTriangle)
      return picked.length > 0 ? [{ ...one, picked }] : []
    })
  const take = ({ triangles: found }: PickAnswer, takesOut: boolean): void => {
    if (!found || found.length === 0) return
    const next = new Set(now())
    for (const t of found) {
      if (takesOut) next.delete(t)
      else next.add(t)
    }
    steps.push(next)
  }
  return {
    pick: async (line, reach, takesOut) => take(await ask({ kind: 'pick', line, reach }), takesOut),
    lasso: async (lasso, takesOut) => take(await ask({ kind: 'lasso', lasso }), takesOut),
    undo() {
      if (steps.length > 1) steps.pop()
    },
    count: () => now().size,
    marks: () =>
      pickedParts().map(({ path, primitive, picked }) => ({
        kind: 'triangles',
        node: path,
        primitive,
        triangles: Uint32Array.from(picked),
      })),
    parts: () =>
      pickedParts().map(({ path, mesh, picked }) =>
        packPicked({
          node: path,
          positions: placesOf(mesh.geometry),
          indices: Uint32Array.from(cornersOf(mesh.geometry)),
          picked,
        }),
      ),
    end: () => worker.terminate(),
  }
}
