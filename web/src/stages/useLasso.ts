import { onBeforeUnmount, onMounted, shallowRef, type ShallowRef } from 'vue'
import type { LentStage } from './stageRoom'

type Point = readonly [number, number]

/** A point nearer to the last one than so many pixels adds nothing. */
const STEP = 3
/** Fewer points than this enclose nothing. */
const LEAST = 3

/**
 * Lets a line be drawn over a stage while `isOn` says so; the model is then not turned. `drawn` hears of its corners in
 * the picture, −1 to 1 from left to right and from the foot up. Gives the corners in pixels while it is drawn.
 */
export function useLasso(
  stage: () => LentStage,
  isOn: () => boolean,
  drawn: (outline: Point[], withShift: boolean) => Promise<void> | void,
): ShallowRef<readonly Point[]> {
  const line = shallowRef<readonly Point[]>([])
  let drawing = false
  const { canvas } = stage()
  const down = (event: PointerEvent): void => {
    if (!isOn() || event.button !== 0 || event.altKey) return
    event.stopImmediatePropagation()
    event.preventDefault()
    drawing = true
    canvas.setPointerCapture(event.pointerId)
    line.value = [[event.offsetX, event.offsetY]]
  }
  const move = (event: PointerEvent): void => {
    if (!drawing) return
    event.stopImmediatePropagation()
    const [x, y] = line.value.at(-1)!
    if (Math.hypot(event.offsetX - x, event.offsetY - y) >= STEP)
      line.value = [...line.value, [event.offsetX, event.offsetY]]
  }
  const up = (event: PointerEvent): void => {
    if (!drawing) return
    drawing = false
    event.stopImmediatePropagation()
    const { clientWidth: width, clientHeight: height } = canvas
    const outline = line.value.map(([x, y]): Point => [(x / width) * 2 - 1, 1 - (y / height) * 2])
    line.value = []
    if (outline.length >= LEAST) void drawn(outline, event.shiftKey)
  }
  const handlers = { pointerdown: down, pointermove: move, pointerup: up, pointercancel: up } as const
  onMounted(() => {
    for (const [name, act] of Object.entries(handlers))
      canvas.addEventListener(name, act as EventListener, { capture: true })
  })
  onBeforeUnmount(() => {
    for (const [name, act] of Object.entries(handlers))
      canvas.removeEventListener(name, act as EventListener, { capture: true })
  })
  return line
}
