import * as engine from '@dimforge/rapier3d-compat'
import { dropBalls, type DropResult, type DropScene } from './dropBalls'

export interface DropAnswer {
  result: DropResult | null
  why: string
}

const port = self as unknown as {
  onmessage: (event: MessageEvent<DropScene>) => void
  postMessage: (answer: DropAnswer) => void
}

// Six hundred steps of fifty balls take a second: on the page it would stand still
port.onmessage = ({ data }) => {
  engine
    .init()
    .then(() => port.postMessage({ result: dropBalls(engine, data), why: '' }))
    .catch((error: unknown) => port.postMessage({ result: null, why: String(error) }))
}
