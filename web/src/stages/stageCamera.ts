import { type Box3, type Object3D, PerspectiveCamera, Vector3 } from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'

/** The camera of a stage and the hand that turns it. */
export interface StageCamera {
  camera: PerspectiveCamera
  controls: OrbitControls
}

/** From where a thing is first looked at: a little from the right and from above. */
const FIRST_SIDE = new Vector3(0.34, 0.3, 1).normalize()

/** Looks at all of a box from its first side, through a lens of so many degrees from foot to top. */
export function frameBox({ camera, controls }: StageCamera, box: Box3, lens: number): void {
  const size = box.getSize(new Vector3()),
    target = box.getCenter(new Vector3())
  const radius = Math.max(size.length() / 2, 1e-3)
  const distance = (radius / Math.sin((lens * Math.PI) / 360)) * Math.max(1, 0.98 / camera.aspect) * 1.04
  camera.fov = lens
  camera.position.copy(target).addScaledVector(FIRST_SIDE, distance)
  camera.near = distance / 500
  camera.far = distance * 40
  camera.updateProjectionMatrix()
  controls.target.copy(target)
  controls.update()
}

/**
 * Looks through a camera of the model, turned about what lies ahead at the depth of a box. A view without a lens keeps
 * that of the stage.
 */
export function lookAlong({ camera, controls }: StageCamera, through: Object3D, box: Box3): void {
  through.updateWorldMatrix(true, false)
  const eye = new Vector3().setFromMatrixPosition(through.matrixWorld)
  const ahead = new Vector3(0, 0, -1).transformDirection(through.matrixWorld)
  const depth = Math.max(0.01, box.getCenter(new Vector3()).sub(eye).dot(ahead))
  if (through instanceof PerspectiveCamera) camera.fov = through.fov
  camera.position.copy(eye)
  camera.near = depth / 500
  camera.far = depth * 40
  camera.updateProjectionMatrix()
  controls.target.copy(eye).addScaledVector(ahead, depth)
  controls.update()
}

/** Takes another lens, of so many degrees from foot to top; what lies at the pivot stays as large as it was. */
export function changeLens({ camera, controls }: StageCamera, lens: number): void {
  const factor = Math.sin((camera.fov * Math.PI) / 360) / Math.sin((lens * Math.PI) / 360)
  camera.position.sub(controls.target).multiplyScalar(factor).add(controls.target)
  camera.near *= factor
  camera.far *= factor
  camera.fov = lens
  camera.updateProjectionMatrix()
  controls.update()
}
