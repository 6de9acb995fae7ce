import { Mesh, type BufferGeometry, type Material, type Object3D } from 'three'

/**
 * Materials and shapes that were taken off a stage. They are freed after the next picture: what takes their
 * place has been drawn by then, so that programs both of them use are not built again.
 */
export interface Retired {
  materials: (material: Material | Material[]) => void
  /** Everything that hangs on an object, but shapes that the model still has. */
  object: (object: Object3D, kept?: ReadonlySet<BufferGeometry>) => void
  free: () => void
}

export function createRetired(): Retired {
  let waiting: { dispose: () => void }[] = []
  const materials = (material: Material | Material[]): void => void waiting.push(...[material].flat())
  return {
    materials,
    object(object, kept) {
      object.traverse((part) => {
        const { geometry, material } = part as Partial<Mesh>
        if (material) materials(material)
        if (geometry && !kept?.has(geometry)) waiting.push(geometry)
      })
    },
    free() {
      const now = waiting
      waiting = []
      for (const one of now) one.dispose()
    },
  }
}
