import { Color } from 'three'

/** Colours of a map of distances: inside, touching, and as far off as the map tells apart. */
export const distanceColours = { inside: '#ff3d9a', near: '#f0b429', far: '#12525c' } as const

/**
 * Red, green and blue of each vertex by its distance in metres: magenta below 0, else from amber at 0 to teal from
 * `far` on. What has no distance is as what is far.
 */
export function colourDistances(distances: Float32Array, far: number): Float32Array {
  const inside = new Color(distanceColours.inside),
    near = new Color(distanceColours.near),
    off = new Color(distanceColours.far),
    one = new Color()
  const colours = new Float32Array(distances.length * 3)
  for (let v = 0; v < distances.length; v++) {
    const distance = distances[v]!
    if (distance < 0) one.copy(inside)
    else one.lerpColors(near, off, Number.isNaN(distance) ? 1 : Math.min(1, distance / far))
    one.toArray(colours, v * 3)
  }
  return colours
}
