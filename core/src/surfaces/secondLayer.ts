import type { RemedyOptions, SecondLayer, TintChannel } from '@stern-gate/contract'
import { hexOfLinear, linearOfHex } from './hexColour'

/** Options of slots/second-layer as they are when all are said. */
export interface LayerOptions {
  by: 'vertex' | 'mask' | 'ramp' | 'none'
  set: number
  channel: TintChannel
  axis: 'u' | 'v'
  from: number
  to: number
  inverted: boolean
  strength: number
  mode: SecondLayer['mode']
  colour: string
  roughness: number | null
  roughnessMost: number | null
  roughnessChannel: TintChannel
  metallic: number | null
  normal: number
  uv: number
  tiling: number
}

/** Remedy that lays a second layer over a slot. */
export const SECOND_LAYER = 'slots/second-layer'

/** The layer that options of slots/second-layer make; null: none. */
export function layerOf(o: LayerOptions): SecondLayer | null {
  const by = sourceOf(o)
  return (
    by && {
      by,
      inverted: o.inverted,
      strength: o.strength,
      mode: o.mode,
      colour: linearOfHex(o.colour),
      roughness: o.roughness,
      roughnessMost: o.roughnessMost,
      roughnessChannel: o.roughnessChannel,
      metallic: o.metallic,
      normal: o.normal,
      uv: o.uv,
      tiling: o.tiling,
    }
  )
}

function sourceOf(o: LayerOptions): SecondLayer['by'] | null {
  if (o.by === 'vertex') return { kind: 'vertex', set: o.set, channel: o.channel }
  if (o.by === 'mask') return { kind: 'mask', channel: o.channel }
  return o.by === 'ramp' ? { kind: 'ramp', axis: o.axis, from: o.from, to: o.to } : null
}

/** A layer that nobody has set yet. */
export const firstLayer: LayerOptions = {
  by: 'vertex',
  set: 1,
  channel: 'R',
  axis: 'v',
  from: 0,
  to: 1,
  inverted: false,
  strength: 1,
  mode: 'mix',
  colour: '#6b4a33',
  roughness: null,
  roughnessMost: null,
  roughnessChannel: 'G',
  metallic: null,
  normal: 1,
  uv: 0,
  tiling: 1,
}

/** The options that make a layer, for a form. */
export const optionsOfLayer = ({ by, colour, ...rest }: SecondLayer): LayerOptions => ({
  ...firstLayer,
  ...rest,
  by: by.kind,
  ...(by.kind === 'vertex' ? { set: by.set, channel: by.channel } : {}),
  ...(by.kind === 'mask' ? { channel: by.channel } : {}),
  ...(by.kind === 'ramp' ? { axis: by.axis, from: by.from, to: by.to } : {}),
  colour: hexOfLinear(colour),
})

/** The layer of a slot after options that are tried: those that are not said stay; `null` where there is none. */
export function layerAfter(before: SecondLayer | null, tried: Readonly<RemedyOptions>): SecondLayer | null {
  if (!before && Object.keys(tried).length === 0) return null
  return layerOf({ ...(before ? optionsOfLayer(before) : firstLayer), ...tried } as LayerOptions)
}
