import { createModelStage, type ModelStage, type ModelStageEvents } from './modelStage'

/** A stage that was lent to a part of the page. */
export interface LentStage extends ModelStage {
  canvas: HTMLCanvasElement
  /** Takes it out of the page and keeps it for whoever asks next. */
  giveBack: () => void
}

interface Kept {
  canvas: HTMLCanvasElement
  stage: ModelStage
}

/** Kept for the life of the page: a WebGL context with its shaders takes a second to set up, and there are few. */
let idle: Kept | null = null

/**
 * Puts the page's stage for models into an element, as its first child; where it is lent to another one, a
 * second is made. Throws when the browser gives no WebGL.
 */
export function lendModelStage(host: HTMLElement, events: ModelStageEvents): LentStage {
  const kept = idle ?? make()
  idle = null
  const { canvas, stage } = kept
  delete canvas.dataset['ready']
  host.prepend(canvas)
  stage.listen(events)
  let lent = true
  return {
    ...stage,
    canvas,
    giveBack() {
      if (!lent) return
      lent = false
      stage.rest()
      canvas.remove()
      if (idle) stage.dispose()
      else idle = kept
    },
  }
}

function make(): Kept {
  const canvas = document.createElement('canvas')
  canvas.tabIndex = 0
  return { canvas, stage: createModelStage(canvas) }
}
