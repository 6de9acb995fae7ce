import type { WebGLRenderer } from 'three'

/** Gives the canvas of a stage the size of what it lies in, and its width over its height; null while it is not shown. */
export function fillParent(renderer: WebGLRenderer): number | null {
  const { clientWidth, clientHeight } = renderer.domElement.parentElement ?? renderer.domElement
  if (clientWidth === 0 || clientHeight === 0) return null
  renderer.setSize(clientWidth, clientHeight, false)
  return clientWidth / clientHeight
}
