export interface Hand {
  zoom: (x: number, y: number, factor: number) => void
  move: (dx: number, dy: number) => void
  hover?: (x: number, y: number) => void
}

/** Wheel zooms at the pointer, dragging moves; gives back what ends the listening. */
export function listenToHand(canvas: HTMLCanvasElement, hand: Hand): () => void {
  const wheel = (event: WheelEvent) => {
    event.preventDefault()
    hand.zoom(event.offsetX, event.offsetY, Math.exp(-event.deltaY * 0.0015))
  }
  const move = (event: PointerEvent) => {
    if (event.buttons & 1) hand.move(event.movementX, event.movementY)
    else hand.hover?.(event.offsetX, event.offsetY)
  }
  const down = (event: PointerEvent) => canvas.setPointerCapture(event.pointerId)
  canvas.addEventListener('wheel', wheel, { passive: false })
  canvas.addEventListener('pointermove', move)
  canvas.addEventListener('pointerdown', down)
  return () => {
    canvas.removeEventListener('wheel', wheel)
    canvas.removeEventListener('pointermove', move)
    canvas.removeEventListener('pointerdown', down)
  }
}
