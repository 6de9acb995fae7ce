import { createFacePicker, type FacePicker, type PickReach } from '@stern-gate/core/picker'
import type { SightLine } from '@stern-gate/core/brush'

/** What the worker is asked: first to begin, then to pick; each is answered once, in order. */
export type PickAsk =
  | { kind: 'begin'; positions: Float32Array; uvs: Float32Array | null; indices: Uint32Array }
  | { kind: 'pick'; line: SightLine; reach: PickReach }
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
  port.postMessage({ triangles: data.kind === 'pick' ? (picker?.pick(data.line, data.reach) ?? null) : null })
}
