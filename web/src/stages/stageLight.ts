import {
  ACESFilmicToneMapping,
  type Box3,
  Color,
  CompressedCubeTexture,
  type CompressedTexture,
  DirectionalLight,
  Group,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearSRGBColorSpace,
  LinearToneMapping,
  Mesh,
  MeshStandardMaterial,
  NeutralToneMapping,
  ReinhardToneMapping,
  RGBAFormat,
  type Scene,
  SphereGeometry,
  type ToneMapping,
  Vector3,
  type WebGLRenderer,
} from 'three'
import { asking } from './askWorker'
import {
  firstLight,
  type EnvironmentName,
  type LightSettings,
  type Surrounding,
  type ToneCurve,
} from './lightSettings'
import type { PictureAround } from './pictureAround'
import type { LightLevels } from './prefilterWorker'
import { directionOf } from './skyLight'
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
  /** Once the surrounding that was set last lights the scene. */
  ready: () => Promise<void>
  dispose: () => void
}

export function createStageLight(
  scene: Scene,
  renderer: WebGLRenderer,
  onLight: () => void = () => undefined,
): StageLight {
  const lamps = firstLight.lamps.map(() => new DirectionalLight())
  const balls = ballsOf()
  scene.add(...lamps, balls)
  let asked: EnvironmentName | PictureAround | null = null,
    ready = Promise.resolve()
  let now = firstLight
  const surround = (environment: Surrounding): void => {
    const own = environment === 'own' ? ownSurrounding()?.picture : undefined,
      ours = environment === 'own' ? firstLight.environment : environment
    const from = own ?? (ours as EnvironmentName)
    if (asked === from) return
    asked = from
    ready = prefiltered(from).then((texture) => {
      if (asked !== from) return texture.dispose()
      scene.environment?.dispose()
      scene.environment = texture
      onLight()
    })
    // The lamps light it too: what cannot be prefiltered is no reason for an empty stage
    ready = ready.catch(reportError)
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
      lamp.position.set(...directionOf(angle, height)).multiplyScalar(10)
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
    ready: () => ready,
    dispose() {
      asked = null
      scene.environment?.dispose()
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

/**
 * A surrounding, prefiltered for surfaces of every roughness: one of ours, or a picture that goes all around.
 * A worker does it: with a renderer in software the same passes of three hold the page for many seconds.
 */
async function prefiltered(from: EnvironmentName | PictureAround): Promise<CompressedCubeTexture> {
  const worker = new Worker(new URL('./prefilterWorker.ts', import.meta.url), { type: 'module' })
  try {
    return cubeOf(await asking<EnvironmentName | PictureAround, LightLevels>(worker)(from))
  } finally {
    worker.terminate()
  }
}

/** Of the kind whose levels three takes as they are given. */
function cubeOf({ size, levels }: LightLevels): CompressedCubeTexture {
  const faces = Array.from({ length: 6 }, (_, face) => ({
    width: size,
    height: size,
    mipmaps: levels.map((level, i) => {
      const edge = size >> i,
        long = edge * edge * 4
      return { data: level.subarray(face * long, (face + 1) * long), width: edge, height: edge }
    }),
  }))
  const texture = new CompressedCubeTexture(
    faces as unknown as CompressedTexture[],
    RGBAFormat as unknown as ConstructorParameters<typeof CompressedCubeTexture>[1],
    HalfFloatType,
  )
  return Object.assign(texture, {
    isPMREMTexture: true,
    minFilter: LinearMipmapLinearFilter,
    magFilter: LinearFilter,
    colorSpace: LinearSRGBColorSpace,
    needsUpdate: true,
  })
}
