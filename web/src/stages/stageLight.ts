import {
  ACESFilmicToneMapping,
  type Box3,
  Color,
  DirectionalLight,
  Group,
  LinearToneMapping,
  Mesh,
  MeshStandardMaterial,
  NeutralToneMapping,
  PMREMGenerator,
  ReinhardToneMapping,
  type Scene,
  SphereGeometry,
  type Texture,
  type ToneMapping,
  Vector3,
  type WebGLRenderer,
  type WebGLRenderTarget,
} from 'three'
import { directionOf, environmentScene } from './environments'
import {
  firstLight,
  type EnvironmentName,
  type LightSettings,
  type Surrounding,
  type ToneCurve,
} from './lightSettings'
import { ownSurrounding } from './surroundingKept'

const curves: Readonly<Record<ToneCurve, ToneMapping>> = {
  straight: LinearToneMapping,
  shoulder: ReinhardToneMapping,
  film: ACESFilmicToneMapping,
  even: NeutralToneMapping,
}
/** Reflectance of the two matte balls. */
const CHECKERS = [0.18, 0.9] as const

/** What lights a stage: a surrounding, three lamps that stand still, and matte balls to hold against. */
export interface StageLight {
  set: (settings: LightSettings) => void
  /** Puts the balls beside what is shown; null: nothing is shown. */
  beside: (box: Box3 | null) => void
  /** After the browser gave the context back: what it lost is made anew. */
  restore: () => void
  dispose: () => void
}

export function createStageLight(scene: Scene, renderer: WebGLRenderer): StageLight {
  const lamps = firstLight.lamps.map(() => new DirectionalLight())
  const balls = ballsOf()
  scene.add(...lamps, balls)
  let made: { name: string; target: WebGLRenderTarget } | null = null
  let now = firstLight
  const surround = (environment: Surrounding): void => {
    const own = environment === 'own' ? ownSurrounding() : null
    const ours = environment === 'own' ? firstLight.environment : environment
    // Another picture has another texture
    const name = own ? own.texture.uuid : ours
    if (made?.name === name) return
    made?.target.dispose()
    made = { name, target: prefiltered(renderer, own?.texture ?? (ours as EnvironmentName)) }
    scene.environment = made.target.texture
  }
  const set = (settings: LightSettings): void => {
    now = settings
    surround(settings.environment)
    scene.environmentIntensity = settings.strength
    scene.environmentRotation.set(0, (settings.turn * Math.PI) / 180, 0)
    renderer.toneMapping = curves[settings.curve]
    renderer.toneMappingExposure = 2 ** settings.exposure
    settings.lamps.forEach(({ angle, height, strength, colour }, i) => {
      const lamp = lamps[i]!
      lamp.position.copy(directionOf(angle, height)).multiplyScalar(10)
      lamp.intensity = strength
      lamp.color = new Color(colour)
    })
    balls.visible = settings.checkers
  }
  set(now)
  return {
    set,
    beside(box) {
      balls.visible = now.checkers && box !== null && !box.isEmpty()
      if (!box || box.isEmpty()) return
      const size = box.getSize(new Vector3())
      const radius = Math.max(size.x, size.y, size.z) * 0.06
      balls.children.forEach((ball, i) => {
        ball.scale.setScalar(radius)
        ball.position.set(box.max.x + radius * (1.6 + i * 2.4), box.min.y + radius, box.max.z - radius)
      })
    },
    restore() {
      made = null
      surround(now.environment)
    },
    dispose() {
      made?.target.dispose()
    },
  }
}

function ballsOf(): Group {
  const group = new Group()
  const shape = new SphereGeometry(1, 40, 28)
  for (const reflectance of CHECKERS)
    group.add(
      new Mesh(
        shape,
        new MeshStandardMaterial({
          color: new Color(reflectance, reflectance, reflectance),
          roughness: 1,
          metalness: 0,
        }),
      ),
    )
  group.visible = false
  return group
}

/** A surrounding, prefiltered for surfaces of every roughness: one of ours, or a picture that goes all around. */
function prefiltered(renderer: WebGLRenderer, from: EnvironmentName | Texture): WebGLRenderTarget {
  const generator = new PMREMGenerator(renderer)
  if (typeof from !== 'string') {
    const own = generator.fromEquirectangular(from)
    generator.dispose()
    return own
  }
  const scene = environmentScene(from)
  const target = generator.fromScene(scene, 0.01, 0.1, 100, { size: 128 })
  generator.dispose()
  scene.traverse((part) => {
    if (!(part instanceof Mesh)) return
    part.geometry.dispose()
    for (const material of [part.material].flat()) material.dispose()
  })
  return target
}
