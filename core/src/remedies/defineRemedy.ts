import type * as z from 'zod'
import type { Outcome } from '@stern-gate/contract'
import type { DecodeImage, EncodePng } from '../image/pixels'
import type { Work } from './work'

export interface RemedyPorts {
  decode: DecodeImage
  encodePng: EncodePng
}

/** What a remedy did; changed = false says that there was nothing to do. */
export interface RemedyResult {
  changed: boolean
  said: string
}

export interface Remedy<Options = unknown> {
  id: string
  title: string
  /** What it changes and what it leaves alone. */
  about: string
  options: z.ZodType<Options>
  /** Changes the work in place. */
  apply: (work: Work, options: Options, ports: RemedyPorts) => Promise<Outcome<RemedyResult>>
}

export const defineRemedy = <Options>(remedy: Remedy<Options>): Remedy<Options> => remedy
