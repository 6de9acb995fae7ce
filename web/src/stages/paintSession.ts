import { Box3, BufferAttribute, type Mesh, Sphere } from 'three'
import { tintChannels, type PaintedPart, type TintChannel } from '@stern-gate/contract'
import type { Dab } from '@stern-gate/core/brush'
import { packPainted } from '@stern-gate/core/surfaces'
import { asking } from './askWorker'
import { joinMeshes, placesOf } from './meshPlaces'
import { amountsOf } from './layerLook'
import type { StageModel } from './loadModel'
import { LAYER_AMOUNT } from './lookShader'
import type { PaintAnswer, PaintAsk } from './paintWorker'

/** What is painted: a channel of the vertex colours of all that has a slot. */
export interface PaintedChannel {
  slot: string
  set: number
  channel: TintChannel
}

/** A channel while it is being painted, shown at once as the amount of the second layer. */
export interface PaintSession {
  /** Metres from one end of what is painted to the other. */
  diagonal: number
  dab: (dab: Dab) => Promise<void>
  fill: (value: number) => Promise<void>
  shell: (line: Dab['line'], value: number) => Promise<void>
  undo: () => Promise<void>
  /** What there is now, for a step: a part for each node. */
  parts: () => Promise<PaintedPart[]>
  /** What there is now, to go on with on another model of the same asset. */
  values: () => Promise<PaintedValues>
  /** Ends the worker; `shown`: what was painted stays on the stage until the made model comes. */
  end: (shown: boolean) => void
}

/** Values by path of the node and number of the primitive. */
export type PaintedValues = ReadonlyMap<string, Float32Array>

interface Piece {
  key: string
  path: string
  mesh: Mesh
  /** Number of its first vertex among all. */
  first: number
  amounts: BufferAttribute
}

/**
 * Begins to paint a channel on what of a model has a slot; `changed` is called when something of it was repainted.
 * It goes on from `before` where the vertices are as many as then, else from the channel as the model has it. Null
 * where nothing has the slot.
 */
export async function beginPainting(
  model: StageModel,
  { slot, set, channel }: PaintedChannel,
  changed: () => void,
  before: PaintedValues = new Map(),
): Promise<PaintSession | null> {
  const meshes = model.meshes.filter((m) => m.slot === slot && m.mesh.geometry.getAttribute('position'))
  if (meshes.length === 0) return null
  const at = tintChannels.indexOf(channel),
    joined = joinMeshes(meshes.map((m) => m.mesh))
  const pieces = meshes.map(({ path, primitive, mesh }, i): Piece => {
    const key = `${path} ${primitive}`,
      own = amountsOf(mesh.geometry, set, at),
      painted = before.get(key)
    const now = painted?.length === own.length ? painted : own,
      amounts = new BufferAttribute(now, 1)
    mesh.geometry.userData['painting'] = true
    mesh.geometry.setAttribute(LAYER_AMOUNT, amounts)
    return { key, path, mesh, first: joined.pieces[i]!.first, amounts }
  })
  changed()
  const worker = new Worker(new URL('./paintWorker.ts', import.meta.url), { type: 'module' })
  const ask = asking<PaintAsk, PaintAnswer>(worker)
  const { positions, indices } = joined,
    values = new Float32Array(positions.length / 3)
  for (const { first, amounts } of pieces) values.set(amounts.array, first)
  await ask({ kind: 'begin', positions, indices, values })
  const repaint = async (what: PaintAsk): Promise<void> => {
    const answer = await ask(what)
    if (!answer.changed || answer.changed.vertices.length === 0) return
    show(pieces, answer.changed.vertices, answer.changed.values)
    changed()
  }
  return {
    diagonal: 2 * new Box3().setFromArray(positions).getBoundingSphere(new Sphere()).radius,
    dab: (dab) => repaint({ kind: 'dab', dab }),
    fill: (value) => repaint({ kind: 'fill', value }),
    shell: (line, value) => repaint({ kind: 'shell', line, value }),
    undo: () => repaint({ kind: 'undo' }),
    async values() {
      const { values: now } = await ask({ kind: 'values' })
      return new Map(pieces.map(({ key, first, amounts }) => [key, now!.slice(first, first + amounts.count)]))
    },
    async parts() {
      const { values: now } = await ask({ kind: 'values' })
      return partsOf(pieces, now!)
    },
    end(shown) {
      worker.terminate()
      for (const { mesh } of shown ? [] : pieces) {
        const { geometry } = mesh
        delete geometry.userData['painting']
        geometry.setAttribute(LAYER_AMOUNT, new BufferAttribute(amountsOf(geometry, set, at), 1))
      }
      changed()
    },
  }
}

function show(pieces: readonly Piece[], vertices: Uint32Array, values: Float32Array): void {
  for (const { first, amounts } of pieces) {
    let least = Infinity,
      most = -1
    for (let k = 0; k < vertices.length; k++) {
      const own = vertices[k]! - first
      if (own < 0 || own >= amounts.count) continue
      amounts.array[own] = values[k]!
      least = Math.min(least, own)
      most = Math.max(most, own)
    }
    if (most < 0) continue
    amounts.addUpdateRange(least, most - least + 1)
    amounts.needsUpdate = true
  }
}

/** All pieces of a node as one part, in the space of its mesh. */
function partsOf(pieces: readonly Piece[], values: Float32Array): PaintedPart[] {
  return [...new Set(pieces.map((p) => p.path))].map((node) => {
    const own = pieces.filter((p) => p.path === node)
    const {
      positions,
      indices,
      pieces: placed,
    } = joinMeshes(
      own.map((p) => p.mesh),
      (mesh) => placesOf(mesh.geometry),
    )
    const amounts = new Float32Array(positions.length / 3)
    own.forEach((piece, i) =>
      amounts.set(values.subarray(piece.first, piece.first + piece.amounts.count), placed[i]!.first),
    )
    return packPainted({ node, positions, indices, values: amounts, rest: commonest(amounts) })
  })
}

/** 0 or 1, whichever more vertices have: it needs not be listed. */
const commonest = (values: Float32Array): number => {
  let full = 0
  for (const v of values) if (v === 1) full++
  return full > values.length / 2 ? 1 : 0
}
