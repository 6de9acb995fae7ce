import { clearanceTo, type Clearance } from '@stern-gate/core/clearance'

/** Triangles of both, where they stand. */
export interface ClearanceScene {
  own: { positions: Float32Array; indices: Uint32Array }[]
  host: { positions: Float32Array; indices: Uint32Array }[]
}
export type ClearanceAnswer = Clearance | null

const port = self as unknown as {
  onmessage: (event: MessageEvent<ClearanceScene>) => void
  postMessage: (answer: ClearanceAnswer) => void
}

port.onmessage = ({ data: { own, host } }) => {
  const straight = (parts: ClearanceScene['own']) => parts.map((p) => ({ ...p, turned: false }))
  port.postMessage(clearanceTo(straight(own), straight(host)))
}
