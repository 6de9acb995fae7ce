import { Material, Mesh, MeshBasicMaterial, MeshStandardMaterial, SkinnedMesh, type Scene } from 'three'
import { createClipPlayer, type ClipPlayer } from './clipPlayer'
import { disposeModel, loadModel, type StageModel } from './loadModel'
import type { ModelFrame, ShownParts } from './modelFrame'
import type { Retired } from './retired'
import { viewMaterial } from './viewMaterials'
import { canTake, restyle, wornSurface, type TriedSurfaces } from './wornSurface'

/** One model of the stage with what it wears and the pose it is in; before and after are two of them. */
export interface StagedModel {
  /** The model, once it is there. */
  model: () => StageModel | null
  /**
   * Fetches another model where the address is another; the old one stays until then. False where something
   * else was asked for meanwhile.
   */
  take: (address: string) => Promise<boolean>
  dress: (frame: ModelFrame, parts: ShownParts) => void
  /** Tries other surfaces on slots, where it shows its own; from now on, and quickly. */
  trySurfaces: (tried: TriedSurfaces) => void
  pose: (clip: number | null, seconds: number) => void
  /** Whether it is in the pose of a clip. */
  posed: () => boolean
  /** Shows or hides all of it, for the halves of a divided stage. */
  show: (on: boolean) => void
  /** Lets the wire follow what it lies on; before each picture. */
  follow: () => void
  /** Takes it off the stage, and what was still on its way to it. */
  clear: () => void
}

export function createStagedModel(scene: Scene, retired: Retired): StagedModel {
  let model: StageModel | null = null,
    address = '',
    coming: { address: string; stop: AbortController; done: Promise<boolean> } | null = null,
    player: ClipPlayer | null = null,
    posed = false
  let tried: TriedSurfaces = new Map(),
    trying = false,
    variant: string | null = null
  const wires = new Map<Mesh, Mesh>(),
    dressed = new Map<Mesh, Material | Material[]>(),
    /** Meshes that wear a tried surface. */
    worn = new Map<Mesh, MeshStandardMaterial>()

  type StagedMesh = StageModel['meshes'][number]
  const wornOf = (one: StagedMesh) => (variant === null ? undefined : one.variants.get(variant))
  const slotOf = (one: StagedMesh): string => wornOf(one)?.slot ?? one.slot

  const wear = (mesh: Mesh, material: Material | Material[]): void => {
    dressed.set(mesh, mesh.material)
    mesh.material = Array.isArray(material) && !Array.isArray(mesh.material) ? material[0]! : material
  }
  const undress = (): void => {
    for (const [mesh, material] of dressed) {
      retired.materials(mesh.material)
      mesh.material = material
    }
    dressed.clear()
    worn.clear()
    for (const wire of wires.values()) {
      scene.remove(wire)
      retired.materials(wire.material)
    }
    wires.clear()
  }
  /** Puts on, changes or takes off what is tried on one mesh that otherwise shows its own surface. */
  const tryOn = (mesh: Mesh, slot: string): void => {
    const wanted = tried.get(slot),
      now = worn.get(mesh),
      own = dressed.get(mesh) ?? mesh.material
    if (wanted && now && own instanceof MeshStandardMaterial && canTake(now, wanted))
      return restyle(now, own, wanted, mesh.geometry)
    if (now) {
      retired.materials(now)
      mesh.material = own
      dressed.delete(mesh)
      worn.delete(mesh)
    }
    const next = wanted && !Array.isArray(own) ? wornSurface(own, wanted, mesh.geometry) : null
    if (!next) return
    wear(mesh, next)
    worn.set(mesh, next)
  }
  const remove = (): void => {
    if (!model) return
    undress()
    const bones = player?.bones()
    if (bones) scene.remove(bones)
    player?.dispose()
    player = null
    posed = false
    scene.remove(model.root)
    disposeModel(model)
    model = null
    address = ''
  }
  const leave = (): void => {
    coming?.stop.abort()
    coming = null
  }
  const bring = async (next: string, signal: AbortSignal): Promise<boolean> => {
    const loaded = await loadModel(next, signal)
    if (signal.aborted) {
      disposeModel(loaded)
      return false
    }
    remove()
    model = loaded
    player = createClipPlayer(loaded.root, loaded.clips)
    address = next
    scene.add(loaded.root)
    return true
  }
  return {
    model: () => model,
    take(next) {
      if (coming?.address === next) return coming.done
      // Whatever else was asked for is not wanted any more
      leave()
      if (model && next === address) return Promise.resolve(true)
      const own = { address: next, stop: new AbortController(), done: Promise.resolve(false) }
      own.done = bring(next, own.stop.signal).finally(() => {
        if (coming === own) coming = null
      })
      coming = own
      return own.done
    },
    dress(frame, { shown, veiled }) {
      undress()
      trying = frame.view === 'shaded' || frame.view === 'wire'
      variant = frame.variant
      for (const one of model?.meshes ?? []) {
        const { path, mesh } = one,
          slot = slotOf(one)
        mesh.material = wornOf(one)?.material ?? one.own
        const asVeil = veiled.includes(path)
        mesh.visible =
          asVeil ||
          (shown.includes(path) && (frame.only === null || frame.only === slot || frame.only === one.slot))
        if (!mesh.visible) continue
        const material = asVeil ? veil() : viewMaterial(frame, mesh, slot)
        if (material) wear(mesh, material)
        else if (trying) tryOn(mesh, slot)
        if (frame.view !== 'wire' || asVeil) continue
        const wire = wireOver(mesh)
        wires.set(mesh, wire)
        scene.add(wire)
      }
      const bones = player?.bones()
      if (bones && frame.bones) scene.add(bones)
      else if (bones) scene.remove(bones)
    },
    trySurfaces(next) {
      tried = next
      if (trying)
        for (const one of model?.meshes ?? [])
          if (one.mesh.visible && (worn.has(one.mesh) || !dressed.has(one.mesh))) tryOn(one.mesh, slotOf(one))
    },
    pose(clip, seconds) {
      if (!player || !model || (clip === null && !posed)) return
      player.pose(clip, seconds)
      posed = clip !== null
      model.root.updateMatrixWorld(true)
    },
    posed: () => posed,
    show(on) {
      if (model) model.root.visible = on
      for (const wire of wires.values()) wire.visible = on
    },
    follow() {
      for (const [mesh, wire] of wires) wire.matrix.copy(mesh.matrixWorld)
    },
    clear() {
      leave()
      remove()
    },
  }
}

const veil = (): Material =>
  new MeshBasicMaterial({ color: 0x4fb3bd, transparent: true, opacity: 0.34, depthWrite: false })

function wireOver(mesh: Mesh): Mesh {
  const material = new MeshBasicMaterial({
    color: 0x0d1214,
    wireframe: true,
    transparent: true,
    opacity: 0.42,
    polygonOffset: true,
    polygonOffsetFactor: -1,
  })
  const wire =
    mesh instanceof SkinnedMesh ? new SkinnedMesh(mesh.geometry, material) : new Mesh(mesh.geometry, material)
  if (wire instanceof SkinnedMesh && mesh instanceof SkinnedMesh) wire.bind(mesh.skeleton, mesh.bindMatrix)
  wire.matrixAutoUpdate = false
  wire.matrix.copy(mesh.matrixWorld)
  return wire
}
