import { createBrush, type Brush, type Dab, type Repainted, type SightLine } from '@stern-gate/core/brush'

/** What the worker is asked: first to begin, then anything in any order; each is answered once, in order. */
export type PaintAsk =
  | { kind: 'begin'; positions: Float32Array; indices: Uint32Array; values: Float32Array }
  | { kind: 'dab'; dab: Dab }
  | { kind: 'fill'; value: number }
  | { kind: 'shell'; line: SightLine; value: number }
  | { kind: 'undo' }
  | { kind: 'values' }
export interface PaintAnswer {
  kind: PaintAsk['kind']
  /** What changed; null: nothing. */
  changed: Repainted | null
  /** All values, where they were asked for. */
  values: Float32Array | null
}

const port = self as unknown as {
  onmessage: (event: MessageEvent<PaintAsk>) => void
  postMessage: (answer: PaintAnswer) => void
}
let brush: Brush | null = null

// The tree of a large model takes a tenth of a second to build, and a wide touch some milliseconds
port.onmessage = ({ data }) => {
  if (data.kind === 'begin') brush = createBrush(data.positions, data.indices, data.values)
  port.postMessage({
    kind: data.kind,
    changed: brush && changeOf(brush, data),
    values: data.kind === 'values' && brush ? brush.values() : null,
  })
}

function changeOf(on: Brush, ask: PaintAsk): Repainted | null {
  if (ask.kind === 'dab') return on.dab(ask.dab)
  if (ask.kind === 'fill') return on.fill(ask.value)
  if (ask.kind === 'shell') return on.fillShell(ask.line, ask.value)
  return ask.kind === 'undo' ? on.undo() : null
}
