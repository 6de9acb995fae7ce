import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  Group,
  type Material,
  Mesh,
  MeshBasicMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three'
import { fillParent } from './fillParent'
import { boundsOf, disposeModel, loadModel, type StageModel } from './loadModel'
import type { LevelColumn } from './levelsLayout'

export interface LevelsFrame {
  model: string
  columns: readonly LevelColumn[]
  /** Node paths by level. */
  nodes: ReadonlyMap<number, readonly string[]>
  /** Pixels of the page that a metre covers at a metre. */
  pixelsAtOneMetre: number
  /** Where the ground lies, pixels from the top. */
  ground: number
  wire: boolean
  background: string
}

/** Two pictures of a switch and what differs between them. */
export interface SwitchPictures {
  width: number
  height: number
  finer: Uint8Array
  coarser: Uint8Array
  /** Pixels that either draws, and those that differ. */
  drawn: number
  differing: number
}

export interface LevelsStage {
  draw: (frame: LevelsFrame) => Promise<void>
  resize: () => void
  /** What two levels look like at one distance, at true size: pixels by pixels. */
  compare: (
    finer: number,
    coarser: number,
    distance: number,
    pixelsAtOneMetre: number,
  ) => SwitchPictures | null
  dispose: () => void
}

/** The eye looks from the front right, a little from above. */
const AZIMUTH = (35 * Math.PI) / 180,
  ELEVATION = (8 * Math.PI) / 180
/** Pictures of a switch are no larger; a pixel differs where a channel does by more than this. */
const MOST_PIXELS = 512,
  DIFFERS = 12

/** A stage for the levels of one model in a row, each at its own distance. Draws when something changes. */
export function createLevelsStage(canvas: HTMLCanvasElement): LevelsStage {
  const renderer = new WebGLRenderer({
    canvas,
    antialias: true,
    alpha: true,
    preserveDrawingBuffer: true,
  })
  renderer.setPixelRatio(Math.min(2, devicePixelRatio))
  const scene = new Scene(),
    camera = new PerspectiveCamera()
  const key = new DirectionalLight(0xffffff, 2.2),
    fill = new DirectionalLight(0xffffff, 0.8)
  key.position.set(2, 3, 2.5)
  fill.position.set(-3, 1, 0.5)
  scene.add(new AmbientLight(0xffffff, 1.1), key, fill)
  let model: StageModel | null = null,
    address = '',
    frame: LevelsFrame | null = null,
    box = new Box3()
  const wires = new Group()
  scene.add(wires)
  const wireMaterial = new MeshBasicMaterial({
    color: 0x0d1214,
    wireframe: true,
    transparent: true,
    opacity: 0.45,
    polygonOffset: true,
    polygonOffsetFactor: -1,
  })

  const showLevel = (level: number, wire: boolean): void => {
    const shown = new Set(frame?.nodes.get(level))
    for (const { path, mesh } of model?.meshes ?? []) mesh.visible = shown.has(path)
    wires.clear()
    if (!wire) return
    for (const { path, mesh } of model?.meshes ?? []) {
      if (!shown.has(path)) continue
      const over = new Mesh(mesh.geometry, wireMaterial as Material)
      over.matrixAutoUpdate = false
      over.matrix.copy(mesh.matrixWorld)
      wires.add(over)
    }
  }
  /** Places the eye so that a metre at a metre covers so many pixels of a picture of this height. */
  const lookFrom = (distance: number, width: number, height: number, pixels: number): void => {
    const centre = box.getCenter(new Vector3()),
      radius = box.getSize(new Vector3()).length() / 2
    camera.fov = (2 * Math.atan(height / 2 / pixels) * 180) / Math.PI
    camera.aspect = width / height
    camera.near = Math.max(distance / 1000, distance - radius * 1.2)
    camera.far = distance + radius * 1.2
    camera.position
      .set(
        Math.sin(AZIMUTH) * Math.cos(ELEVATION),
        Math.sin(ELEVATION),
        Math.cos(AZIMUTH) * Math.cos(ELEVATION),
      )
      .multiplyScalar(distance)
      .add(centre)
    camera.lookAt(centre)
    camera.updateProjectionMatrix()
    camera.updateMatrixWorld()
  }
  const paint = (): void => {
    if (!frame || !model) return
    const { clientWidth: w, clientHeight: h } = canvas
    renderer.setScissorTest(false)
    renderer.setViewport(0, 0, w, h)
    renderer.setClearColor(new Color(frame.background), 1)
    renderer.clear()
    renderer.setScissorTest(true)
    renderer.autoClear = false
    for (const { level, distance, x, width } of frame.columns) {
      showLevel(level, frame.wire)
      lookFrom(distance, width, h, frame.pixelsAtOneMetre)
      // The lowest corner of its box stands on the ground
      const low = (lowestOf(box, camera) * h) / 2
      renderer.setScissor(Math.max(0, x - width / 2), 0, width, h)
      renderer.setViewport(x - width / 2, h - frame.ground - low - h / 2, width, h)
      renderer.clearDepth()
      renderer.render(scene, camera)
    }
    renderer.setScissorTest(false)
    renderer.autoClear = true
  }
  const remove = (): void => {
    if (!model) return
    scene.remove(model.root)
    disposeModel(model)
    model = null
  }
  let coming = 0
  return {
    async draw(now) {
      frame = now
      if (now.model !== address) {
        const own = ++coming
        const loaded = await loadModel(now.model, new AbortController().signal)
        if (own !== coming) return disposeModel(loaded)
        remove()
        model = loaded
        address = now.model
        scene.add(model.root)
        model.root.updateMatrixWorld(true)
      }
      if (frame !== now || !model) return
      const finest = new Set([...now.nodes.values()][0])
      for (const { mesh } of model.meshes) mesh.visible = true
      box = boundsOf(model, (path) => finest.has(path))
      paint()
    },
    resize() {
      if (fillParent(renderer) === null) return
      paint()
    },
    compare(finer, coarser, distance, pixels) {
      if (!model || !frame) return null
      const size = box.getSize(new Vector3())
      const side = Math.ceil((size.length() * pixels) / Math.max(distance - size.length() / 2, 1e-6)) + 4
      const ratio = renderer.getPixelRatio(),
        most = Math.min(MOST_PIXELS, canvas.width, canvas.height)
      const wanted = Math.max(8, Math.min(most, side))
      const gl = renderer.getContext()
      const picture = (level: number): Uint8Array => {
        showLevel(level, false)
        lookFrom(distance, wanted, wanted, pixels)
        renderer.setViewport(0, 0, wanted / ratio, wanted / ratio)
        renderer.setClearColor(0x000000, 0)
        renderer.clear()
        renderer.render(scene, camera)
        const read = new Uint8Array(wanted * wanted * 4)
        gl.readPixels(0, 0, wanted, wanted, gl.RGBA, gl.UNSIGNED_BYTE, read)
        return read
      }
      const first = picture(finer),
        second = picture(coarser)
      paint()
      return { width: wanted, height: wanted, finer: first, coarser: second, ...differenceOf(first, second) }
    },
    dispose() {
      coming++
      remove()
      wireMaterial.dispose()
      renderer.dispose()
      // A browser has few contexts, and takes them from stages that are in use
      renderer.forceContextLoss()
    },
  }
}

/** Height of a box's lowest corner in a picture, from −1 at its foot to 1 at its head. */
function lowestOf({ min, max }: Box3, camera: PerspectiveCamera): number {
  let lowest = Infinity
  for (let c = 0; c < 8; c++) {
    const corner = new Vector3(c & 1 ? max.x : min.x, c & 2 ? max.y : min.y, c & 4 ? max.z : min.z)
    lowest = Math.min(lowest, corner.project(camera).y)
  }
  return lowest
}

/** Pixels of two RGBA pictures that either draws, and those of them that differ. */
export function differenceOf(first: Uint8Array, second: Uint8Array): { drawn: number; differing: number } {
  let drawn = 0,
    differing = 0
  for (let k = 0; k < first.length; k += 4) {
    if (first[k + 3] === 0 && second[k + 3] === 0) continue
    drawn++
    if (pixelDiffers(first, second, k)) differing++
  }
  return { drawn, differing }
}

/** Whether a pixel that begins at a byte differs in some channel by more than is seen. */
export const pixelDiffers = (first: Uint8Array, second: Uint8Array, k: number): boolean =>
  Math.abs(first[k]! - second[k]!) > DIFFERS ||
  Math.abs(first[k + 1]! - second[k + 1]!) > DIFFERS ||
  Math.abs(first[k + 2]! - second[k + 2]!) > DIFFERS ||
  Math.abs(first[k + 3]! - second[k + 3]!) > DIFFERS
