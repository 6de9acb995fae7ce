import { Matrix4, type PerspectiveCamera } from 'three'

/** The eye of a stage, and the matrix that brings the world into its picture: −1 to 1, column by column. */
export interface StageLens {
  eye: [number, number, number]
  matrix: number[]
}

export function lensOf(camera: PerspectiveCamera): StageLens {
  camera.updateMatrixWorld()
  return {
    eye: camera.position.toArray(),
    matrix: new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse).toArray(),
  }
}
