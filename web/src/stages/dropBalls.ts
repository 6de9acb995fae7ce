import { nearestSurface } from '@stern-gate/core/nearest'

/** Triangles where they stand: x y z each, three numbers a triangle. */
export interface DropShape {
  positions: Float32Array
  indices: Uint32Array
  /** A closed convex shape is taken as one; another one as the triangles that it is of. */
  convex: boolean
}

export interface DropScene {
  /** What the balls meet. */
  collision: readonly DropShape[]
  /** What is seen. */
  surface: readonly Omit<DropShape, 'convex'>[]
  /** Box around both, metres. */
  min: [number, number, number]
  max: [number, number, number]
}

/** Where one ball came to rest, and how far from the surface that is seen. */
export interface RestingBall {
  at: [number, number, number]
  /** rests: on the collision; ground: beside it. */
  where: 'rests' | 'ground'
  /** Metres between ball and surface; above 0: it floats, below: it is sunk in. */
  gap: number
}

export interface DropResult {
  radius: number
  balls: RestingBall[]
  /** Centres of all balls, x y z each, a picture after the other. */
  frames: Float32Array[]
  /** Seconds between two pictures. */
  step: number
}

/** Balls along each side of the grid that falls. */
const SIDE = 7
/** Radius as a share of the longest side. */
const RADIUS = 0.025
const STEP = 1 / 120,
  SECONDS = 5,
  /** Every so manyeth step is a picture. */
  KEPT = 4

/**
 * Drops a grid of balls onto collision shapes by fixed steps, the same from the same start, and measures where each
 * comes to rest against the surface that is seen. The engine comes from whoever calls.
 */
export function dropBalls(engine: typeof import('@dimforge/rapier3d-compat'), scene: DropScene): DropResult {
  const size = scene.min.map((v, i) => scene.max[i]! - v)
  const radius = Math.max(...size) * RADIUS
  // Small things fall as large ones do: lengths are brought to a few metres, and back
  const scale = 2 / Math.max(...size)
  const world = new engine.World({ x: 0, y: -9.81, z: 0 })
  world.timestep = STEP
  world.createCollider(
    engine.ColliderDesc.cuboid(50, 0.5, 50)
      .setTranslation(0, scene.min[1] * scale - 0.5, 0)
      .setFriction(0.9),
  )
  for (const shape of scene.collision) addShape(engine, world, shape, scale)
  const bodies = startsOf(scene, radius).map(([x, y, z]) => {
    const body = world.createRigidBody(
      engine.RigidBodyDesc.dynamic()
        .setTranslation(x * scale, y * scale, z * scale)
        .setLinearDamping(0.2)
        .setAngularDamping(3)
        .setCcdEnabled(true),
    )
    world.createCollider(
      engine.ColliderDesc.ball(radius * scale)
        .setRestitution(0.1)
        .setFriction(0.9),
      body,
    )
    return body
  })
  const frames: Float32Array[] = []
  for (let n = 0; n < SECONDS / STEP; n++) {
    world.step()
    if (n % KEPT === 0)
      frames.push(
        Float32Array.from(
          bodies.flatMap((b) =>
            [b.translation().x, b.translation().y, b.translation().z].map((v) => v / scale),
          ),
        ),
      )
  }
  const ends = frames.at(-1)!
  world.free()
  return { radius, balls: restOf(ends, scene, radius), frames, step: STEP * KEPT }
}

function addShape(
  engine: typeof import('@dimforge/rapier3d-compat'),
  world: import('@dimforge/rapier3d-compat').World,
  { positions, indices, convex }: DropShape,
  scale: number,
): void {
  const scaled = positions.map((v) => v * scale)
  const shape =
    (convex ? engine.ColliderDesc.convexHull(scaled) : null) ?? engine.ColliderDesc.trimesh(scaled, indices)
  world.createCollider(shape.setFriction(0.9))
}

/** A grid over the box, each ball a little higher than the one before, so that they do not fall as one sheet. */
function startsOf({ min, max }: DropScene, radius: number): [number, number, number][] {
  const starts: [number, number, number][] = []
  for (let i = 0; i < SIDE; i++)
    for (let j = 0; j < SIDE; j++)
      starts.push([
        min[0] + ((i + 0.5) / SIDE) * (max[0] - min[0]),
        max[1] + radius * (2 + ((i * 5 + j * 3) % SIDE)),
        min[2] + ((j + 0.5) / SIDE) * (max[2] - min[2]),
      ])
  return starts
}

function restOf(ends: Float32Array, { surface, min }: DropScene, radius: number): RestingBall[] {
  const nearest = nearestSurface(surface.map((s) => ({ ...s, turned: false })))
  const balls: RestingBall[] = []
  for (let k = 0; k < ends.length; k += 3) {
    const at: [number, number, number] = [ends[k]!, ends[k + 1]!, ends[k + 2]!]
    const where = at[1] - min[1] < radius * 1.3 ? 'ground' : 'rests'
    const distance = nearest ? nearest(...at).distance : Infinity
    balls.push({ at, where, gap: distance - radius })
  }
  return balls
}

/** What a gap means against the size of a ball. */
export const meaningOf = (
  { where, gap }: RestingBall,
  radius: number,
): 'ground' | 'fits' | 'floats' | 'sunk' =>
  where === 'ground' ? 'ground' : gap > radius * FITS ? 'floats' : gap < -radius * FITS ? 'sunk' : 'fits'

/** A gap of less than this share of the radius is none that anybody sees. */
const FITS = 0.35
