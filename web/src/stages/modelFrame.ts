import type { StageMark } from './stageMarks'

export const modelViews = ['shaded', 'plain', 'wire', 'checker', 'map', 'slots', 'colours'] as const
export type ModelView = (typeof modelViews)[number]

export const surfaceMaps = ['basecolor', 'normal', 'occlusion', 'roughness', 'metallic', 'emissive'] as const
export type SurfaceMap = (typeof surfaceMaps)[number]
export const colourChannels = ['all', 'R', 'G', 'B', 'A'] as const
export type ColourChannel = (typeof colourChannels)[number]

/** Node paths that are drawn, and those that lie as a veil over them. */
export interface ShownParts {
  shown: readonly string[]
  veiled: readonly string[]
}

/** One picture of the stage: the same frame draws the same picture. */
export interface ModelFrame {
  /** Address of a GLB. */
  model: string
  view: ModelView
  /** Which map is shown alone. */
  map: SurfaceMap
  /** Which channel of the vertex colours is shown. */
  colourChannel: ColourChannel
  /** UV channel that the checker lies on, counted from 0. */
  channel: number
  /** Names of the slots in the order of the file. */
  slots: readonly string[]
  /** Node paths that are drawn; all others are hidden. */
  shown: readonly string[]
  /** Node paths drawn as a veil over the rest. */
  veiled: readonly string[]
  /** Name of the variant that is worn; null: what the file shows by itself. */
  variant: string | null
  /** The only slot that is drawn; null: all of them. */
  only: string | null
  marks: readonly StageMark[]
  aids: boolean
  /** Lines from bone to bone over the model. */
  bones: boolean
  personHeight: number
  /** Metres between the strong lines of the grid; null: by size. */
  gridStep: number | null
  /**
   * Another asset for comparison: beside the model with its own surface, or over it by the same origin, as a
   * veil.
   */
  guest: { model: string; shown: readonly string[]; over: boolean } | null
  /** null: what stands behind the stage shows through. */
  background: string | null
  /** What stands left of the divider; null: no divider. */
  before: ({ model: string } & ShownParts) | null
  /** Where the divider stands, as a share of the stage's width. */
  divider: number
}
