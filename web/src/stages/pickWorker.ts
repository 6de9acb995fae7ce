import { createFacePicker, type FacePicker, type Lasso, type PickReach } from '@stern-gate/core/picker'
import type { SightLine } from '@stern-gate/core/brush'

/** What the worker is asked: first to begin, then to pick; each is answered once, in order. */
export type PickAsk =
  | { kind: 'begin'; positions: Float32Array; uvs: Float32Array | null; indices: Uint32Array }
  | { kind: 'pick'; line: SightLine; reach: PickReach }
  | { kind: 'lasso'; lasso: Lasso }
export interface PickAnswer {
  triangles: number[] | null
}

const port = self as unknown as {
  onmessage: (event: MessageEvent<PickAsk>) => void
  postMessage: (answer: PickAnswer) => void
}
let picker: FacePicker | null = null

port.onmessage = ({ data }) => {
  if (data.kind === 'begin') picker = createFacePicker(data.positions, data.uvs, data.indices)
  port.postMessage({ triangles: picked(data) })
}

function picked(ask: PickAsk): number[] | null {
  if (!picker || ask.kind === 'begin') return null
  return ask.kind === 'pick' ? picker.pick(ask.line, ask.reach) : picker.within(ask.lasso)
}
