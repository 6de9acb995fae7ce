import {
  AmbientLight,
  Color,
  DirectionalLight,
  Frustum,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  PerspectiveCamera,
  PlaneGeometry,
  Quaternion,
  Scene,
  Sphere,
  Vector3,
  WebGLRenderer,
  Fog,
} from 'three'
import { distanceTo, levelAt, type ScatteredCopies } from '@stern-gate/core/lods'
import { fillParent } from './fillParent'
import { boundsOf, disposeModel, loadModel, type StageModel } from './loadModel'
import type { Switches } from './levelsLayout'

export interface ScatterFrame {
  model: string
  /** Node paths of each level, from the finest. */
  levels: readonly (readonly string[])[]
  copies: ScatteredCopies
  switches: Switches
  /** Vertical angle of view of the target's lens, degrees. */
  fovDegrees: number
  /** Metres. */
  eyeHeight: number
  background: string
}

/** What was drawn in one picture. */
export interface ScatterDrawn {
  eye: readonly [number, number, number]
  /** Copies within the view that are drawn. */
  inView: number
  /** Calls of the graphics card: one for each part of each level that has copies in view. */
  calls: number
  triangles: number
}

export interface ScatterStage {
  draw: (frame: ScatterFrame) => Promise<void>
  resize: () => void
  /** Goes forward and to the right, metres along the ground, and turns, radians. */
  move: (forward: number, right: number, turn: number, tilt: number) => void
  /** Back to where it began. */
  begin: () => void
  dispose: () => void
}

/** Ground beyond the last copy, as a share of the square. */
const AROUND = 1.6

/**
 * Many copies of one model on a ground, seen from eye height through the target's lens. Each level is drawn with all
 * its copies at once; what is drawn is gone through anew whenever the eye moves.
 */
export function createScatterStage(
  canvas: HTMLCanvasElement,
  onDrawn: (drawn: ScatterDrawn) => void,
): ScatterStage {
  const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true })
  renderer.setPixelRatio(Math.min(2, devicePixelRatio))
  const scene = new Scene(),
    camera = new PerspectiveCamera()
  const sun = new DirectionalLight(0xfff4e2, 2.6)
  sun.position.set(2, 3, 1.5)
  const ground = new Mesh(
    new PlaneGeometry(1, 1),
    new MeshStandardMaterial({ color: 0x8f8a78, roughness: 1 }),
  )
  ground.rotation.x = -Math.PI / 2
  scene.add(new AmbientLight(0xdfe8ee, 1.3), sun, ground)
  let model: StageModel | null = null,
    address = '',
    frame: ScatterFrame | null = null,
    parts: { level: number; mesh: InstancedMesh; own: Matrix4 }[] = [],
    radius = 1,
    coming = 0,
    asked = 0
  let yaw = 0,
    tilt = 0
  const eye = new Vector3()

  const leaveParts = (): void => {
    for (const { mesh } of parts) {
      scene.remove(mesh)
      mesh.dispose()
    }
    parts = []
  }
  const takeParts = (now: ScatterFrame, from: StageModel): void => {
    leaveParts()
    now.levels.forEach((paths, level) => {
      for (const { path, mesh } of from.meshes) {
        if (!paths.includes(path)) continue
        const copies = new InstancedMesh(mesh.geometry, mesh.material, now.copies.count)
        copies.frustumCulled = false
        copies.count = 0
        scene.add(copies)
        parts.push({ level, mesh: copies, own: mesh.matrixWorld.clone() })
      }
    })
  }
  const begin = (): void => {
    const side = frame?.copies.side ?? 10
    eye.set(0, frame?.eyeHeight ?? 1.6, side / 2 + Math.max(2, radius * 2))
    yaw = 0
    tilt = -0.06
    paintSoon()
  }
  const place = new Matrix4(),
    turn = new Quaternion(),
    up = new Vector3(0, 1, 0),
    at = new Vector3(),
    size = new Vector3(),
    ball = new Sphere(),
    seen = new Frustum()
  /** Gives each part the copies that show it; those outside of the view are left out. */
  const fill = (now: ScatterFrame): ScatterDrawn => {
    camera.position.copy(eye)
    camera.rotation.set(tilt, yaw, 0, 'YXZ')
    camera.updateMatrixWorld()
    seen.setFromProjectionMatrix(place.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse))
    for (const part of parts) part.mesh.count = 0
    const { copies } = now,
      place3 = [eye.x, eye.y, eye.z] as const
    const full = new Matrix4()
    let inView = 0,
      triangles = 0
    for (let n = 0; n < copies.count; n++) {
      const level = levelAt(distanceTo(copies, n, place3) / copies.size[n]!, now.switches)
      if (level === null) continue
      const own = Math.min(level, now.levels.length - 1)
      at.set(copies.x[n]!, 0, copies.z[n]!)
      ball.center.set(at.x, radius * copies.size[n]!, at.z)
      ball.radius = radius * copies.size[n]! * 1.5
      if (!seen.intersectsSphere(ball)) continue
      inView++
      place.compose(at, turn.setFromAxisAngle(up, copies.turn[n]!), size.setScalar(copies.size[n]!))
      for (const part of parts) {
        if (part.level !== own) continue
        part.mesh.setMatrixAt(part.mesh.count++, full.multiplyMatrices(place, part.own))
      }
    }
    let calls = 0
    for (const { mesh } of parts) {
      mesh.visible = mesh.count > 0
      if (!mesh.visible) continue
      calls++
      mesh.instanceMatrix.needsUpdate = true
      triangles +=
        (mesh.count * (mesh.geometry.index?.count ?? mesh.geometry.getAttribute('position').count)) / 3
    }
    return { eye: place3, inView, calls, triangles }
  }
  const paint = (): void => {
    asked = 0
    if (!frame || !model) return
    const drawn = fill(frame)
    renderer.render(scene, camera)
    onDrawn(drawn)
  }
  const paintSoon = (): void => {
    asked ||= requestAnimationFrame(paint)
  }
  const remove = (): void => {
    leaveParts()
    if (model) disposeModel(model)
    model = null
  }
  return {
    begin,
    async draw(now) {
      const isNew = frame === null || frame.copies.side !== now.copies.side || now.model !== address
      frame = now
      if (now.model !== address) {
        const own = ++coming
        const loaded = await loadModel(now.model, new AbortController().signal)
        if (own !== coming) return disposeModel(loaded)
        remove()
        model = loaded
        address = now.model
        model.root.updateMatrixWorld(true)
      }
      if (frame !== now || !model) return
      const box = boundsOf(model, (path) => now.levels[0]!.includes(path))
      radius = box.isEmpty() ? 1 : box.getSize(new Vector3()).length() / 2
      takeParts(now, model)
      const colour = new Color(now.background)
      scene.background = colour
      scene.fog = new Fog(colour, now.copies.side, now.copies.side * 3)
      ground.scale.setScalar(now.copies.side * AROUND + 20)
      camera.fov = now.fovDegrees
      camera.near = Math.max(0.02, radius / 20)
      camera.far = now.copies.side * 4 + 100
      camera.updateProjectionMatrix()
      if (isNew) begin()
      paintSoon()
    },
    resize() {
      const aspect = fillParent(renderer)
      if (aspect === null) return
      camera.aspect = aspect
      camera.updateProjectionMatrix()
      paintSoon()
    },
    move(forward, right, turned, tilted) {
      yaw += turned
      tilt = Math.min(1.2, Math.max(-1.2, tilt + tilted))
      eye.x += -Math.sin(yaw) * forward + Math.cos(yaw) * right
      eye.z += -Math.cos(yaw) * forward - Math.sin(yaw) * right
      paintSoon()
    },
    dispose() {
      coming++
      cancelAnimationFrame(asked)
      remove()
      ground.geometry.dispose()
      ground.material.dispose()
      renderer.dispose()
      // A browser has few contexts, and takes them from stages that are in use
      renderer.forceContextLoss()
    },
  }
}
