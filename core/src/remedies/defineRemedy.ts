import type * as z from 'zod'
import type { Outcome, RemedyNeeds, Station } from '@stern-gate/contract'
import type { DecodeImage, EncodePng } from '../image/pixels'
import type { Work } from './work'

export interface RemedyPorts {
  decode: DecodeImage
  encodePng: EncodePng
  /** What a step keeps outside its options, by SHA-256; null where it is not there. */
  stepData: (sha256: string) => Uint8Array | null
}

/** What a remedy did; changed = false says that there was nothing to do. */
export interface RemedyResult {
  changed: boolean
  said: string
}

export interface Remedy<Options = unknown> {
  id: string
  /** Raised when it makes something else of the same source: outputs made by an older one are made anew. */
  version: number
  station: Station
  needs: RemedyNeeds
  title: string
  /** What a step does, in a few words, for its chip in the recipe. */
  words: (options: Options) => string
  /** What it changes and what it leaves alone. */
  about: string
  /** A field that names a thing of the asset says which by `.meta({ names: 'node' })`. */
  options: z.ZodType<Options>
  /**
   * Whether it changes neither what is seen nor what another file relies on: the same surface, silhouettes and
   * texels that are used. Without it a person decides. A test holds safe ones to it.
   */
  safe?: true | ((options: Options) => boolean)
  /** It tries many ways and may take a minute on a large mesh: it gets more time. */
  isSlow?: true
  /** Changes the work in place. */
  apply: (work: Work, options: Options, ports: RemedyPorts) => Promise<Outcome<RemedyResult>>
}

export const defineRemedy = <Options>(remedy: Remedy<Options>): Remedy<Options> => remedy
