import type { PickedPart } from '@stern-gate/contract'
import type { SightLine } from '@stern-gate/core/brush'
import type { Lasso, PickReach } from '@stern-gate/core/picker'
import { packPicked } from '@stern-gate/core/surfaces'
import { asking } from './askWorker'
import type { StageModel } from './loadModel'
import { cornersOf, joinedCorners, placesOf, worldOf } from './meshPlaces'
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
  let vertices = 0,
    triangles = 0
  const pieces = meshes.map(({ path, primitive, mesh }) => {
    const corners = cornersOf(mesh.geometry)
    const piece = { path, primitive, mesh, corners, first: vertices, firstTriangle: triangles }
    vertices += mesh.geometry.getAttribute('position').count
    triangles += corners.length / 3
    return piece
  })
  const positions = new Float32Array(vertices * 3),
    uvs = new Float32Array(vertices * 2)
  for (const { mesh, first } of pieces) {
    positions.set(worldOf(mesh), first * 3)
    const uv = mesh.geometry.getAttribute('uv')
    for (let v = 0; uv && v < uv.count; v++) uvs.set([uv.getX(v), uv.getY(v)], (first + v) * 2)
  }
  const worker = new Worker(new URL('./pickWorker.ts', import.meta.url), { type: 'module' })
  const ask = asking<PickAsk, PickAnswer>(worker)
  const indices = joinedCorners(pieces.map((p) => ({ indices: p.corners, first: p.first })))
  await ask({ kind: 'begin', positions, uvs, indices })
  const steps: ReadonlySet<number>[] = [new Set()]
  const now = (): ReadonlySet<number> => steps.at(-1)!
  const ofPiece = ({ firstTriangle, corners }: (typeof pieces)[number]): number[] =>
    [...now()]
      .filter((t) => t >= firstTriangle && t < firstTriangle + corners.length / 3)
      .map((t) => t - firstTriangle)
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
      pieces.flatMap((piece): StageMark[] => {
        const own = ofPiece(piece)
        return own.length > 0
          ? [
              {
                kind: 'triangles',
                node: piece.path,
                primitive: piece.primitive,
                triangles: Uint32Array.from(own),
              },
            ]
          : []
      }),
    parts: () =>
      pieces.flatMap((piece): PickedPart[] => {
        const picked = ofPiece(piece)
        return picked.length > 0
          ? [
              packPicked({
                node: piece.path,
                positions: placesOf(piece.mesh.geometry),
                indices: Uint32Array.from(piece.corners),
                picked,
              }),
            ]
          : []
      }),
    end: () => worker.terminate(),
  }
}
