import type { Matrix4, Quaternion } from 'three'

/** A change of axes and unit: a point p of the file is `matrix` p in metres with Y up. */
export interface Similarity {
  matrix: Matrix4
  inverse: Matrix4
  turn: Quaternion
  factor: number
}
