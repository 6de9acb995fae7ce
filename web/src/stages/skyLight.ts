import type { LightFrom } from '@stern-gate/core/surroundings'
import type { EnvironmentName } from './lightSettings'

/** Linear light, 1 = white paper in the studio. */
type Rgb = readonly [number, number, number]

interface Sky {
  zenith: Rgb
  horizon: Rgb
  ground: Rgb
  /** A glow in the sky: where (angle, height in degrees), how wide and how bright. */
  glow?: { angle: number; height: number; width: number; light: Rgb }
}
interface Lit {
  angle: number
  height: number
  /** Degrees to both sides. */
  width: number
  tall: number
  light: Rgb
}

const skies: Readonly<Record<EnvironmentName, { sky: Sky; panels: readonly Lit[] }>> = {
  overcast: {
    sky: { zenith: [1.5, 1.55, 1.62], horizon: [0.85, 0.9, 0.96], ground: [0.16, 0.15, 0.14] },
    panels: [],
  },
  dusk: {
    sky: {
      zenith: [0.16, 0.22, 0.4],
      horizon: [0.9, 0.5, 0.3],
      ground: [0.05, 0.05, 0.06],
      glow: { angle: 60, height: 4, width: 26, light: [7, 3.4, 1.2] },
    },
    panels: [],
  },
  studio: {
    sky: { zenith: [0.5, 0.5, 0.5], horizon: [0.62, 0.62, 0.62], ground: [0.4, 0.4, 0.4] },
    panels: [
      { angle: 55, height: 40, width: 24, tall: 18, light: [9, 9, 9] },
      { angle: -70, height: 20, width: 12, tall: 34, light: [4.5, 4.5, 4.5] },
      { angle: 175, height: 30, width: 30, tall: 8, light: [5, 5, 5] },
    ],
  },
  night: {
    sky: { zenith: [0.012, 0.016, 0.03], horizon: [0.03, 0.035, 0.055], ground: [0.012, 0.012, 0.014] },
    panels: [
      { angle: 40, height: 34, width: 4, tall: 4, light: [90, 60, 30] },
      { angle: -50, height: 26, width: 3, tall: 3, light: [70, 46, 22] },
      { angle: -160, height: 40, width: 4, tall: 4, light: [50, 55, 70] },
      { angle: 120, height: 14, width: 2, tall: 2, light: [80, 24, 16] },
    ],
  },
}

const radians = (degrees: number): number => (degrees * Math.PI) / 180

/** Where a direction points: degrees from the front (+Z) to the right, and upward. */
export function directionOf(angle: number, height: number): Rgb {
  const a = radians(angle),
    h = radians(height)
  return [Math.sin(a) * Math.cos(h), Math.sin(h), Math.cos(a) * Math.cos(h)]
}

/** The light of one of our surroundings: a sky with a horizon, a ground, and lit panels that face the middle. */
export function skyLight(name: EnvironmentName): LightFrom {
  const { sky, panels } = skies[name]
  const dome = domeOf(sky),
    lit = panels.map(panelOf)
  return (x, y, z, out) => {
    const light = lit.find(({ hit }) => hit(x, y, z))?.light
    if (light) out.set(light)
    else dome(x, y, z, out)
  }
}

function domeOf({ zenith, horizon, ground, glow }: Sky): LightFrom {
  const toward = glow ? directionOf(glow.angle, glow.height) : null,
    width = radians(glow?.width ?? 1)
  return (x, y, z, out) => {
    const up = Math.max(y, 0) ** 0.55,
      down = Math.min(1, -y * 6)
    let more = 0
    if (toward && y >= 0) {
      const cosine = x * toward[0] + y * toward[1] + z * toward[2]
      more = Math.exp(-((Math.acos(Math.min(1, Math.max(-1, cosine))) / width) ** 2))
    }
    for (let c = 0; c < 3; c++)
      out[c] =
        y < 0
          ? horizon[c]! * 0.5 * (1 - down) + ground[c]! * down
          : horizon[c]! * (1 - up) + zenith[c]! * up + (glow?.light[c] ?? 0) * more
  }
}

function panelOf({ angle, height, width, tall, light }: Lit): {
  light: Rgb
  hit: (x: number, y: number, z: number) => boolean
} {
  const [fx, fy, fz] = directionOf(angle, height),
    [rx, , rz] = directionOf(angle + 90, 0),
    [ux, uy, uz] = directionOf(angle, height + 90),
    wide = Math.tan(radians(width)),
    high = Math.tan(radians(tall))
  return {
    light,
    hit(x, y, z) {
      const ahead = x * fx + y * fy + z * fz
      return (
        ahead > 0 &&
        Math.abs(x * rx + z * rz) <= wide * ahead &&
        Math.abs(x * ux + y * uy + z * uz) <= high * ahead
      )
    },
  }
}
