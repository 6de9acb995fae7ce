import {
  BackSide,
  BoxGeometry,
  Color,
  Mesh,
  MeshBasicMaterial,
  Scene,
  ShaderMaterial,
  SphereGeometry,
  Vector3,
} from 'three'
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

const RADIUS = 10

/** Where a direction points: degrees from the front (+Z) to the right, and upward. */
export function directionOf(angle: number, height: number): Vector3 {
  const a = (angle * Math.PI) / 180,
    h = (height * Math.PI) / 180
  return new Vector3(Math.sin(a) * Math.cos(h), Math.sin(h), Math.cos(a) * Math.cos(h))
}

/** A scene to be taken as light from all sides; everything in it is made here. */
export function environmentScene(name: EnvironmentName): Scene {
  const { sky, panels } = skies[name]
  const scene = new Scene()
  scene.add(dome(sky))
  for (const p of panels) scene.add(panel(p))
  return scene
}

function dome({ zenith, horizon, ground, glow }: Sky): Mesh {
  const toward = glow ? directionOf(glow.angle, glow.height) : new Vector3(0, 1, 0)
  const material = new ShaderMaterial({
    side: BackSide,
    uniforms: {
      zenith: { value: new Color(...zenith) },
      horizon: { value: new Color(...horizon) },
      ground: { value: new Color(...ground) },
      glow: { value: new Color(...(glow?.light ?? [0, 0, 0])) },
      toward: { value: toward },
      width: { value: ((glow?.width ?? 1) * Math.PI) / 180 },
    },
    vertexShader: `varying vec3 seen;
void main() {
  seen = position;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`,
    fragmentShader: `uniform vec3 zenith, horizon, ground, glow, toward;
uniform float width;
varying vec3 seen;
void main() {
  vec3 way = normalize(seen);
  vec3 sky = mix(horizon, zenith, pow(max(way.y, 0.0), 0.55));
  float off = acos(clamp(dot(way, toward), -1.0, 1.0)) / width;
  sky += glow * exp(-off * off);
  gl_FragColor = vec4(way.y < 0.0 ? mix(horizon * 0.5, ground, min(1.0, -way.y * 6.0)) : sky, 1.0);
}`,
  })
  return new Mesh(new SphereGeometry(RADIUS, 48, 32), material)
}

function panel({ angle, height, width, tall, light }: Lit): Mesh {
  const side = (degrees: number): number => 2 * RADIUS * 0.9 * Math.tan((degrees * Math.PI) / 180)
  const mesh = new Mesh(
    new BoxGeometry(side(width), side(tall), 0.1),
    new MeshBasicMaterial({ color: new Color(...light) }),
  )
  mesh.position.copy(directionOf(angle, height)).multiplyScalar(RADIUS * 0.9)
  mesh.lookAt(0, 0, 0)
  return mesh
}
