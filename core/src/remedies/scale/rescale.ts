import type { Accessor, Document } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { floatsOf } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'

export const rescale = defineRemedy({
  id: 'scale/rescale',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Scale',
  words: ({ factor }) => `Scale by ${factor}`,
  about:
    'Scales the whole asset about the origin: points, node positions, skins, clips, lights and ' +
    'cameras. Node scales stay as they are.',
  options: z.strictObject({
    factor: z.number().positive().min(1e-6).max(1e6).describe('new size over old size'),
  }),
  async apply(work, { factor }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no size in metres' })
    if (factor === 1) return good({ changed: false, said: 'a factor of 1 changes nothing' })
    rescaleDocument(work.document, factor)
    return good({ changed: true, said: `everything is ${factor} times as large` })
  },
})

/**
 * Edits in place. A similarity about the origin: with points and translations times f and rotations and
 * scales kept, each world position becomes f times itself.
 */
export function rescaleDocument(document: Document, factor: number): void {
  const root = document.getRoot()
  const lengths = new Set<Accessor>()
  for (const mesh of root.listMeshes())
    for (const primitive of mesh.listPrimitives())
      for (const holder of [primitive, ...primitive.listTargets()]) {
        const position = holder.getAttribute('POSITION')
        if (position) lengths.add(position)
      }
  for (const animation of root.listAnimations())
    for (const channel of animation.listChannels()) {
      const output = channel.getSampler()?.getOutput()
      if (channel.getTargetPath() === 'translation' && output) lengths.add(output)
    }
  for (const accessor of lengths) scaleAccessor(accessor, factor)
  for (const node of root.listNodes())
    node.setTranslation(node.getTranslation().map((v) => v * factor) as [number, number, number])
  for (const matrices of new Set(root.listSkins().map((s) => s.getInverseBindMatrices())))
    if (matrices) scaleMatrixTranslations(matrices, factor)
  for (const camera of root.listCameras()) {
    camera.setZNear(camera.getZNear() * factor)
    if (camera.getZFar() !== null) camera.setZFar(camera.getZFar()! * factor)
  }
  scaleExtensions(document, factor)
}

/** Quantised points become floats: a factor would run past their range. */
function scaleAccessor(accessor: Accessor, factor: number): void {
  const values = Float32Array.from(floatsOf(accessor), (v) => v * factor)
  accessor.setNormalized(false).setArray(values)
}

function scaleMatrixTranslations(accessor: Accessor, factor: number): void {
  const values = floatsOf(accessor).slice()
  for (let k = 0; k + 15 < values.length; k += 16) for (let i = 12; i < 15; i++) values[k + i]! *= factor
  accessor.setArray(values)
}

interface Reach {
  getRange?: () => number | null
  setRange?: (v: number) => void
  getThicknessFactor?: () => number
  setThicknessFactor?: (v: number) => void
  getAttenuationDistance?: () => number
  setAttenuationDistance?: (v: number) => void
}

/** Lengths that extensions carry: the reach of lights, the thickness of volumes. */
function scaleExtensions(document: Document, factor: number): void {
  const holders = [...document.getRoot().listNodes(), ...document.getRoot().listMaterials()]
  for (const property of new Set(holders.flatMap((h) => h.listExtensions()))) {
    const reach = property as unknown as Reach
    const range = reach.getRange?.()
    if (typeof range === 'number') reach.setRange?.(range * factor)
    if (reach.getThicknessFactor) reach.setThicknessFactor?.(reach.getThicknessFactor() * factor)
    const distance = reach.getAttenuationDistance?.()
    if (typeof distance === 'number' && Number.isFinite(distance))
      reach.setAttenuationDistance?.(distance * factor)
  }
}
