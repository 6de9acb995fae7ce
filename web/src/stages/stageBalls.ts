import { Color, InstancedMesh, Matrix4, MeshStandardMaterial, SphereGeometry, type Scene } from 'three'

/** Balls at places x y z each; colours by ball, or one grey for all. */
export interface ShownBalls {
  places: Float32Array
  radius: number
  colours: readonly string[] | null
}

/** Balls on a stage, all in one draw call. */
export interface StageBalls {
  show: (shown: ShownBalls) => void
  clear: () => void
}

const GREY = '#d9d4c4'

export function createBalls(scene: Scene): StageBalls {
  let balls: InstancedMesh | null = null
  const clear = (): void => {
    if (!balls) return
    scene.remove(balls)
    balls.geometry.dispose()
    ;(balls.material as MeshStandardMaterial).dispose()
    balls.dispose()
    balls = null
  }
  return {
    show({ places, radius, colours }) {
      const count = places.length / 3
      if (balls?.count !== count) {
        clear()
        balls = new InstancedMesh(
          new SphereGeometry(1, 20, 14),
          new MeshStandardMaterial({ roughness: 0.5 }),
          count,
        )
        balls.frustumCulled = false
        scene.add(balls)
      }
      const matrix = new Matrix4(),
        colour = new Color()
      for (let n = 0; n < count; n++) {
        matrix
          .makeScale(radius, radius, radius)
          .setPosition(places[n * 3]!, places[n * 3 + 1]!, places[n * 3 + 2]!)
        balls.setMatrixAt(n, matrix)
        balls.setColorAt(n, colour.set(colours?.[n] ?? GREY))
      }
      balls.instanceMatrix.needsUpdate = true
      if (balls.instanceColor) balls.instanceColor.needsUpdate = true
    },
    clear,
  }
}
