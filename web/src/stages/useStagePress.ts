import { onBeforeUnmount, onMounted } from 'vue'
import type { SightLine } from '@stern-gate/core/brush'
import type { LentStage } from './stageRoom'

/** So many pixels a pointer may move before a press is a drag. */
const DRAG = 4

/** Hears of presses on a stage that are no drags: a drag turns the model, as ever. */
export function useStagePress(
  stage: () => LentStage,
  press: (line: SightLine, withShift: boolean) => Promise<void> | void,
): void {
  let began: { x: number; y: number } | null = null
  const down = (event: PointerEvent): void => {
    began = event.button === 0 && !event.altKey ? { x: event.clientX, y: event.clientY } : null
  }
  const up = (event: PointerEvent): void => {
    const from = began
    began = null
    if (!from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > DRAG) return
    void press(stage().lineAt(event.offsetX, event.offsetY), event.shiftKey)
  }
  const { canvas } = stage()
  onMounted(() => {
    canvas.addEventListener('pointerdown', down)
    canvas.addEventListener('pointerup', up)
  })
  onBeforeUnmount(() => {
    canvas.removeEventListener('pointerdown', down)
    canvas.removeEventListener('pointerup', up)
  })
}
