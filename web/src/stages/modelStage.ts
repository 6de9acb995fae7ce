import {
  type Box3,
  Color,
  Group,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three'
import { fillParent } from './fillParent'
import { createBalls, type ShownBalls } from './stageBalls'
import { onPicture } from './stagePictures'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { boundsOf, type StageModel } from './loadModel'
import { createAids, type Aids } from './measuringAids'
import { firstLight, type LightSettings } from './lightSettings'
import { createRetired } from './retired'
import { changeLens, frameBox, lookAlong } from './stageCamera'
import { createStageLight } from './stageLight'
import { createMarks } from './stageMarks'
import type { ModelFrame } from './modelFrame'
import { lensOf, type StageLens } from './stageLens'
import { createStagedModel } from './stagedModel'
import type { SightLine } from '@stern-gate/core/brush'
import type { TriedSurfaces } from './wornSurface'

export interface PickedTriangle {
  node: string
  primitive: number
  triangle: number
}
export interface PlacedLabel {
  x: number
  y: number
  metres: number
  what: string
}

export interface ModelStage {
  draw: (frame: ModelFrame) => Promise<void>
  /** Lights it otherwise, from now on. */
  light: (settings: LightSettings) => void
  /** The colour that is drawn at a point of the canvas, in pixels: red, green and blue, 0 to 255. */
  colourAt: (x: number, y: number) => [number, number, number]
  /** Tries other surfaces on slots of the model, from now on. */
  trySurfaces: (tried: TriedSurfaces) => void
  /** Shows balls, or takes them away. */
  balls: (shown: ShownBalls | null) => void
  /**
   * Puts the model into the pose of a clip, by its number in the file, at a time in seconds; null: as it
   * rests.
   */
  pose: (clip: number | null, seconds: number) => void
  /** Looks at everything that is shown. */
  frameAll: () => void
  /** Looks through a camera that came with the model, by its number. */
  lookThrough: (view: number) => void
  /** The line of sight through a point of the canvas, in pixels. */
  lineAt: (x: number, y: number) => SightLine
  /** The eye, and what brings the world into the picture. */
  lens: () => StageLens
  /** How many pixels a metre has at the depth of the pivot. */
  pixelsAMetre: () => number
  /** Draws once more, where something of the model was changed from outside. */
  repaint: () => void
  /** What lies under a point of the canvas, in pixels. */
  pick: (x: number, y: number) => PickedTriangle | null
  /** The model that is on the stage, for what is drawn beside it. */
  model: () => StageModel | null
  /** What stands beside it or at the same origin. */
  guestModel: () => StageModel | null
  resize: () => void
  /** Who hears of its pictures from now on. */
  listen: (events: ModelStageEvents) => void
  /** Takes everything off it, and frees what that took. */
  rest: () => void
  dispose: () => void
}

export interface ModelStageEvents {
  /** After each picture: labels in pixels, and how many pixels a metre has at the pivot's depth. */
  onDrawn: (labels: PlacedLabel[], scale: { pxPerMetre: number; zeroX: number; zeroY: number }) => void
}

/** A stage for models. It draws when something changes, never in a loop. */
export function createModelStage(canvas: HTMLCanvasElement): ModelStage {
  let events: ModelStageEvents = { onDrawn: () => undefined }
  const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true, alpha: true })
  renderer.setPixelRatio(Math.min(2, devicePixelRatio))
  const scene = new Scene(),
    balls = createBalls(scene)
  const camera = new PerspectiveCamera(firstLight.lens, 1, 0.01, 1000)
  const controls = new OrbitControls(camera, canvas)
  const light = createStageLight(scene, renderer, () => paintSoon()),
    retired = createRetired()
  const staged = createStagedModel(scene, retired),
    before = createStagedModel(scene, retired),
    guest = createStagedModel(scene, retired)
  let frame: ModelFrame | null = null,
    aids: Aids | null = null,
    marks = new Group(),
    asked = 0,
    framedFor = '',
    lens = firstLight.lens
  const ray = new Raycaster()

  const paint = (): void => {
    asked = 0
    if (aids)
      aids.person.rotation.y = Math.atan2(
        camera.position.x - aids.person.position.x,
        camera.position.z - aids.person.position.z,
      )
    staged.follow()
    before.follow()
    guest.follow()
    if (before.model() && frame?.before) paintHalves(frame.divider)
    else paintHalf('after')
    retired.free()
    events.onDrawn(placeLabels(), scaleAtPivot())
  }
  const paintHalf = (half: 'before' | 'after'): void => {
    staged.show(half === 'after')
    before.show(half === 'before')
    // Marks lie on the model at rest, and speak of what is there now
    marks.visible = half === 'after' && !staged.posed()
    renderer.render(scene, camera)
  }
  const paintHalves = (divider: number): void => {
    const { clientWidth: w, clientHeight: h } = canvas,
      line = Math.round(w * divider)
    renderer.setScissorTest(true)
    renderer.setScissor(0, 0, line - 1, h)
    paintHalf('before')
    renderer.setScissor(line + 1, 0, w - line - 1, h)
    paintHalf('after')
    renderer.setScissor(line - 1, 0, 2, h)
    renderer.setClearColor(0xffffff, 1)
    renderer.clear()
    renderer.setScissorTest(false)
  }
  const paintSoon = (): void => {
    asked ||= requestAnimationFrame(paint)
  }
  controls.addEventListener('change', paintSoon)
  // A canvas that was never painted is black; until a model is there the colour of the stage shows through
  paintSoon()

  const placeLabels = (): PlacedLabel[] => {
    if (!aids || !frame?.aids) return []
    const { clientWidth: w, clientHeight: h } = canvas
    return aids.labels.flatMap(({ at, metres, what }) => {
      const p = at.clone().project(camera)
      const inside = Math.abs(p.x) < 1 && Math.abs(p.y) < 1 && p.z < 1
      return inside ? [{ x: (p.x / 2 + 0.5) * w, y: (-p.y / 2 + 0.5) * h, metres, what }] : []
    })
  }
  /** Metres at the depth of the pivot, which is the origin. */
  const scaleAtPivot = () => {
    const { clientWidth: w, clientHeight: h } = canvas
    const forward = camera.getWorldDirection(new Vector3())
    const depth = Math.max(1e-6, forward.dot(new Vector3().sub(camera.position)))
    const pxPerMetre = h / (2 * depth * Math.tan((camera.fov * Math.PI) / 360))
    const pivot = new Vector3().project(camera)
    return { pxPerMetre, zeroX: (pivot.x / 2 + 0.5) * w, zeroY: (-pivot.y / 2 + 0.5) * h }
  }

  const pose = (clip: number | null, seconds: number): void => {
    staged.pose(clip, seconds)
    before.pose(clip, seconds)
    paintSoon()
  }
  const shownBox = (): Box3 | null => {
    const model = staged.model(),
      other = before.model()
    if (!model || !frame) return null
    const box = boundsOf(model, (path) => frame!.shown.includes(path))
    if (other && frame.before) box.union(boundsOf(other, (path) => frame!.before!.shown.includes(path)))
    const stranger = guest.model()
    return stranger && frame.guest
      ? box.union(boundsOf(stranger, (path) => frame!.guest!.shown.includes(path)))
      : box
  }
  const placeGuest = (
    now: ModelFrame,
    { shown, over }: NonNullable<ModelFrame['guest']>,
    box: Box3,
  ): void => {
    const { root } = guest.model()!
    guest.dress(now, over ? { shown: [], veiled: shown } : { shown, veiled: [] })
    root.position.x = 0
    const own = boundsOf(guest.model()!, (path) => shown.includes(path))
    if (!over && !own.isEmpty() && !box.isEmpty())
      root.position.x = box.max.x - own.min.x + Math.max(box.max.x - box.min.x, own.max.x - own.min.x) * 0.2
    root.updateMatrixWorld(true)
  }
  const frameAll = (): void => {
    const box = shownBox()
    if (!frame || !box || box.isEmpty()) return
    const own = box.getSize(new Vector3()).length()
    // Beside the person where both can be seen well; a brooch or a tower stands alone
    if (aids && frame.aids && own > frame.personHeight / 6)
      for (const { at, what } of aids.labels)
        if (what !== 'person' || own < frame.personHeight * 30) box.expandByPoint(at)
    frameBox({ camera, controls }, box, lens)
    paintSoon()
  }
  const lookThrough = (view: number): void => {
    const through = staged.model()?.views[view]?.camera
    const box = shownBox()
    if (!through || !box) return
    lookAlong({ camera, controls }, through, box)
    paintSoon()
  }
  const lineAt = (x: number, y: number): SightLine => {
    const { clientWidth: w, clientHeight: h } = canvas
    ray.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), camera)
    const { origin, direction } = ray.ray
    return { origin: [origin.x, origin.y, origin.z], direction: [direction.x, direction.y, direction.z] }
  }
  const pick = (x: number, y: number): PickedTriangle | null => {
    const model = staged.model()
    if (!model || !frame) return null
    lineAt(x, y)
    const shown = model.meshes.filter((m) => m.mesh.visible)
    const [hit] = ray.intersectObjects(
      shown.map((m) => m.mesh),
      false,
    )
    const found = hit ? shown.find((m) => m.mesh === hit.object) : undefined
    return hit && found && hit.faceIndex != null
      ? { node: found.path, primitive: found.primitive, triangle: hit.faceIndex }
      : null
  }
  const colourAt = (x: number, y: number): [number, number, number] => {
    const gl = renderer.getContext(),
      texel = new Uint8Array(4),
      ratio = renderer.getPixelRatio()
    gl.readPixels(
      Math.floor(x * ratio),
      Math.floor((canvas.clientHeight - y) * ratio),
      1,
      1,
      gl.RGBA,
      gl.UNSIGNED_BYTE,
      texel,
    )
    return [texel[0]!, texel[1]!, texel[2]!]
  }
  const resize = (): void => {
    const aspect = fillParent(renderer)
    if (aspect === null) return
    camera.aspect = aspect
    camera.updateProjectionMatrix()
    paintSoon()
  }
  const leaveAids = (): void => {
    if (!aids) return
    scene.remove(aids.group)
    retired.object(aids.group)
    aids = null
  }
  const leaveMarks = (): void => {
    scene.remove(marks)
    retired.object(marks, new Set(staged.model()?.meshes.map((m) => m.mesh.geometry)))
  }
  // A picture that has come is put on what is tried
  let surfaces: TriedSurfaces = new Map()
  const leavePictures = onPicture(() => {
    staged.trySurfaces(surfaces)
    paintSoon()
  })
  // Drawn anew once the browser gives the context back; three puts everything there again by itself
  canvas.addEventListener('webglcontextrestored', () => paintSoon())
  const rest = (): void => {
    frame = null
    framedFor = ''
    leaveMarks()
    leaveAids()
    for (const one of [staged, before, guest]) one.clear()
    retired.free()
    staged.trySurfaces(new Map())
    surfaces = new Map()
    balls.clear()
    light.set(firstLight)
    events = { onDrawn: () => undefined }
  }
  const draw = async (now: ModelFrame): Promise<void> => {
    frame = now
    const [own, other, beside] = await Promise.all([
      staged.take(now.model),
      now.before ? before.take(now.before.model) : true,
      now.guest ? guest.take(now.guest.model) : true,
      // Without its light the first picture would be dark
      light.ready(),
    ])
    const model = staged.model()
    if (!own || !other || !beside || frame !== now || !model) return
    if (!now.before) before.clear()
    if (!now.guest) guest.clear()
    scene.background = now.background === null ? null : new Color(now.background)
    staged.dress(now, now)
    if (now.before) before.dress(now, now.before)
    const box = boundsOf(model, (path) => now.shown.includes(path))
    light.beside(box)
    if (now.guest) placeGuest(now, now.guest, box)
    leaveAids()
    aids = box.isEmpty() ? null : createAids(box, now)
    if (aids) {
      aids.group.visible = now.aids
      scene.add(aids.group)
    }
    leaveMarks()
    const groups = now.marks.map((mark) => createMarks(model, mark))
    marks = new Group()
    if (groups.length > 0) marks.add(...groups)
    scene.add(marks)
    // The eye stays where a person put it, unless what is shown has another size or place
    const whole = shownBox() ?? box
    const key = [
      now.aids,
      ...whole.getSize(new Vector3()).toArray(),
      ...whole.getCenter(new Vector3()).toArray(),
    ]
      .map((v) => (typeof v === 'number' ? v.toPrecision(2) : v))
      .join()
    if (key !== framedFor) {
      framedFor = key
      frameAll()
    }
    paintSoon()
  }
  return {
    draw,
    light(settings) {
      light.set(settings)
      if (settings.lens !== lens) changeLens({ camera, controls }, (lens = settings.lens))
      paintSoon()
    },
    colourAt,
    trySurfaces(tried) {
      surfaces = tried
      staged.trySurfaces(tried)
      paintSoon()
    },
    balls(shown) {
      if (shown) balls.show(shown)
      else balls.clear()
      paintSoon()
    },
    frameAll,
    lookThrough,
    resize,
    lineAt,
    lens: () => lensOf(camera),
    pixelsAMetre: () => scaleAtPivot().pxPerMetre,
    repaint: paintSoon,
    pick,
    pose,
    model: () => staged.model(),
    guestModel: () => guest.model(),
    listen(next) {
      events = next
    },
    rest,
    dispose() {
      cancelAnimationFrame(asked)
      leavePictures()
      rest()
      light.dispose()
      controls.dispose()
      renderer.dispose()
    },
  }
}
