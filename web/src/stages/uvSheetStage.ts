import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  Scene,
  SRGBColorSpace,
  Texture,
  WebGLRenderer,
} from 'three'
import { fillParent } from './fillParent'
import { listenToHand } from './listenToHand'

/** Triangles of one mesh part on the sheet: u v of each corner, v downward. */
export interface SheetPart {
  node: string
  primitive: number
  slot: string
  uv: Float32Array
}

export interface SheetFrame {
  parts: readonly SheetPart[]
  /** Drawn under the islands, from 0 to 1. */
  picture: Texture | null
  /** Triangles in magenta, by part. */
  faults: ReadonlyMap<SheetPart, Uint32Array>
  /** The triangle that is pointed at, here or on the model. */
  pointed: { part: SheetPart; triangle: number } | null
  background: string
}

export interface SheetPlacement {
  pxPerUnit: number
  zeroX: number
  zeroY: number
}

export interface UvSheetStage {
  draw: (frame: SheetFrame) => void
  fit: () => void
  resize: () => void
  pick: (x: number, y: number) => { part: SheetPart; triangle: number } | null
  dispose: () => void
}

const INK = 0xf4f1e8
const FAULT = new Color('#ff3d9a')
const POINTED = new Color('#ffd76a')

/**
 * A stage for one UV channel: islands over their texture, zoomed and moved by hand. Draws when something
 * changes.
 */
export function createUvSheetStage(
  canvas: HTMLCanvasElement,
  onPlaced: (placement: SheetPlacement) => void,
): UvSheetStage {
  const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true })
  renderer.setPixelRatio(Math.min(2, devicePixelRatio))
  const scene = new Scene(),
    camera = new OrthographicCamera(0, 1, 0, -1, -10, 10)
  let content = new Group(),
    frame: SheetFrame | null = null,
    drawnParts: readonly SheetPart[] | null = null,
    pointer = new Group(),
    asked = 0
  let perSheet = 400,
    zeroX = 20,
    zeroY = 40
  scene.add(content, pointer)

  const paint = (): void => {
    asked = 0
    const { clientWidth: w, clientHeight: h } = canvas
    camera.left = -zeroX / perSheet
    camera.right = (w - zeroX) / perSheet
    camera.top = zeroY / perSheet
    camera.bottom = (zeroY - h) / perSheet
    camera.updateProjectionMatrix()
    renderer.render(scene, camera)
    onPlaced({ pxPerUnit: perSheet, zeroX, zeroY })
  }
  const paintSoon = (): void => {
    asked ||= requestAnimationFrame(paint)
  }
  const fit = (): void => {
    const { clientWidth: w, clientHeight: h } = canvas
    const [u0, v0, u1, v1] = boundsOf(frame?.parts ?? [])
    perSheet = Math.max(4, Math.min((w - 36) / (u1 - u0), (h - 74) / (v1 - v0)))
    zeroX = (w - (u1 - u0) * perSheet) / 2 - u0 * perSheet
    zeroY = (h + 34 - (v1 - v0) * perSheet) / 2 - v0 * perSheet
    paintSoon()
  }
  const leave = listenToHand(canvas, {
    zoom: (x, y, factor) => {
      const next = Math.min(40_000, Math.max(4, perSheet * factor))
      zeroX = x - ((x - zeroX) * next) / perSheet
      zeroY = y - ((y - zeroY) * next) / perSheet
      perSheet = next
      paintSoon()
    },
    move: (dx, dy) => {
      zeroX += dx
      zeroY += dy
      paintSoon()
    },
  })
  return {
    fit,
    draw(now) {
      const fresh = drawnParts !== now.parts || frame?.picture !== now.picture || frame?.faults !== now.faults
      frame = now
      scene.background = new Color(now.background)
      if (fresh) {
        scene.remove(content)
        clear(content)
        content = buildContent(now)
        scene.add(content)
        const first = drawnParts === null || drawnParts !== now.parts
        drawnParts = now.parts
        if (first) fit()
      }
      scene.remove(pointer)
      clear(pointer)
      pointer = buildPointer(now)
      scene.add(pointer)
      paintSoon()
    },
    resize() {
      if (fillParent(renderer) === null) return
      fit()
    },
    pick(x, y) {
      const u = (x - zeroX) / perSheet,
        v = (y - zeroY) / perSheet
      for (const part of frame?.parts ?? []) {
        const triangle = triangleAt(part.uv, u, v)
        if (triangle >= 0) return { part, triangle }
      }
      return null
    },
    dispose() {
      leave()
      cancelAnimationFrame(asked)
      clear(content)
      clear(pointer)
      renderer.dispose()
    },
  }
}

/** Bounds of everything, the sheet from 0 to 1 included. */
function boundsOf(parts: readonly SheetPart[]): [number, number, number, number] {
  const box: [number, number, number, number] = [0, 0, 1, 1]
  for (const { uv } of parts)
    for (let k = 0; k < uv.length; k += 2) {
      const u = uv[k]!,
        v = uv[k + 1]!
      if (!Number.isFinite(u + v)) continue
      if (u < box[0]) box[0] = u
      if (v < box[1]) box[1] = v
      if (u > box[2]) box[2] = u
      if (v > box[3]) box[3] = v
    }
  return box
}

/** Positions of corners in the sheet's plane: v downward is y downward. */
function corners(uv: Float32Array, z: number): BufferAttribute {
  const out = new Float32Array((uv.length / 2) * 3)
  for (let k = 0; k < uv.length / 2; k++) out.set([uv[k * 2]!, -uv[k * 2 + 1]!, z], k * 3)
  return new BufferAttribute(out, 3)
}

function buildContent({ parts, picture, faults }: SheetFrame): Group {
  const group = new Group()
  const square = (z: number): BufferAttribute =>
    new BufferAttribute(new Float32Array([0, 0, z, 1, 0, z, 1, -1, z, 0, -1, z]), 3)
  const sheet = new BufferGeometry()
    .setAttribute('position', square(-2))
    .setAttribute('uv', new BufferAttribute(new Float32Array([0, 0, 1, 0, 1, 1, 0, 1]), 2))
    .setIndex([0, 2, 1, 0, 3, 2])
  group.add(
    new Mesh(
      sheet,
      new MeshBasicMaterial(
        picture
          ? { map: shown(picture), side: DoubleSide, color: 0xb8b8b8 }
          : { color: 0x4c4c4c, side: DoubleSide },
      ),
    ),
  )
  for (const part of parts) {
    const geometry = new BufferGeometry().setAttribute('position', corners(part.uv, -1))
    group.add(
      new Mesh(
        geometry,
        new MeshBasicMaterial({
          color: 0x9fc7c9,
          transparent: true,
          opacity: 0.2,
          side: DoubleSide,
          depthWrite: false,
        }),
      ),
    )
    group.add(
      new LineSegments(
        edgesOf(part.uv),
        new LineBasicMaterial({
          color: INK,
          transparent: true,
          opacity: part.uv.length > 120_000 ? 0.16 : 0.5,
        }),
      ),
    )
    const list = faults.get(part)
    if (list && list.length > 0)
      group.add(
        new Mesh(
          new BufferGeometry().setAttribute('position', corners(pickTriangles(part.uv, list), 0)),
          new MeshBasicMaterial({
            color: FAULT,
            transparent: true,
            opacity: 0.45,
            side: DoubleSide,
            depthWrite: false,
          }),
        ),
      )
  }
  group.add(
    new LineSegments(
      new BufferGeometry().setAttribute('position', square(1)).setIndex([0, 1, 1, 2, 2, 3, 3, 0]),
      new LineBasicMaterial({ color: 0xffffff }),
    ),
  )
  return group
}

/** The picture as it is stored: rows from the top, no flip. */
function shown(picture: Texture): Texture {
  const copy = picture.clone()
  copy.colorSpace = SRGBColorSpace
  copy.flipY = false
  copy.channel = 0
  copy.needsUpdate = true
  return copy
}

function edgesOf(uv: Float32Array): BufferGeometry {
  const geometry = new BufferGeometry().setAttribute('position', corners(uv, 0))
  const count = uv.length / 2,
    index = new Uint32Array(count * 2)
  for (let t = 0; t < count; t += 3) index.set([t, t + 1, t + 1, t + 2, t + 2, t], t * 2)
  return geometry.setIndex(new BufferAttribute(index, 1))
}

function pickTriangles(uv: Float32Array, list: Uint32Array): Float32Array {
  const out = new Float32Array(list.length * 6)
  for (const [i, t] of list.entries()) out.set(uv.subarray(t * 6, t * 6 + 6), i * 6)
  return out
}

function buildPointer({ pointed }: SheetFrame): Group {
  const group = new Group()
  if (!pointed) return group
  const own = pointed.part.uv.subarray(pointed.triangle * 6, pointed.triangle * 6 + 6)
  group.add(
    new Mesh(
      new BufferGeometry().setAttribute('position', corners(own, 2)),
      new MeshBasicMaterial({ color: POINTED, side: DoubleSide }),
    ),
  )
  group.add(new LineSegments(edgesOf(own), new LineBasicMaterial({ color: 0xffffff })))
  return group
}

/** First triangle that holds a point; −1 when none does. */
function triangleAt(uv: Float32Array, u: number, v: number): number {
  for (let k = 0; k + 5 < uv.length; k += 6) {
    const ax = uv[k]!,
      ay = uv[k + 1]!,
      bx = uv[k + 2]!,
      by = uv[k + 3]!,
      cx = uv[k + 4]!,
      cy = uv[k + 5]!
    const s = (bx - ax) * (v - ay) - (by - ay) * (u - ax),
      t = (cx - bx) * (v - by) - (cy - by) * (u - bx),
      w = (ax - cx) * (v - cy) - (ay - cy) * (u - cx)
    if ((s >= 0 && t >= 0 && w >= 0) || (s <= 0 && t <= 0 && w <= 0)) return k / 6
  }
  return -1
}

function clear(group: Group): void {
  for (const child of group.children as (Mesh | LineSegments)[]) {
    child.geometry.dispose()
    for (const material of [child.material].flat()) material.dispose()
  }
  group.clear()
}
