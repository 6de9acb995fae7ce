import * as z from 'zod'

/** The ten stations in the order of work. */
export const stations = [
  'files',
  'names',
  'scale',
  'mesh',
  'slots',
  'colour',
  'compression',
  'uvs',
  'lods',
  'collision',
] as const
export const stationSchema = z.enum(stations)
export type Station = z.infer<typeof stationSchema>

/** Stations where a fault is something to look at: their rules have a picture of it (npm run rule-pictures). */
export const picturedStations: readonly Station[] = [
  'scale',
  'mesh',
  'slots',
  'colour',
  'uvs',
  'lods',
  'collision',
]

/** Names of the stations as they stand on the screen and in reports. */
export const stationTitles: Record<Station, string> = {
  files: 'Files',
  names: 'Names',
  scale: 'Scale',
  mesh: 'Mesh',
  slots: 'Slots',
  colour: 'Colour',
  compression: 'Compression',
  uvs: 'UVs',
  lods: 'LODs',
  collision: 'Collision',
}

/** Levels of a finding, gravest first. */
export const levels = ['stop', 'caution', 'note'] as const
export const levelSchema = z.enum(levels)
export type Level = z.infer<typeof levelSchema>

/**
 * State of a station in the tally: waived where all that it found is waived; none where no rule of the station
 * applies to this kind of asset.
 */
export const stationStateSchema = z.enum(['stop', 'caution', 'note', 'waived', 'clear', 'none'])
export type StationState = z.infer<typeof stationStateSchema>

export const verdictSchema = z.enum(['clear', 'held'])
export type Verdict = z.infer<typeof verdictSchema>

/**
 * Whether a version has a verdict: only what is judged has one. `waiting` for its turn, or its output is being
 * made (`judging`); or judging broke off (`failed`), and the version says why.
 */
export const versionStateSchema = z.enum(['waiting', 'judging', 'judged', 'failed'])
export type VersionState = z.infer<typeof versionStateSchema>

/** Ten small marks, one a station, each with its number of findings. */
export const tallySchema = z.record(
  stationSchema,
  z.strictObject({ state: stationStateSchema, count: z.int().min(0) }),
)
export type Tally = z.infer<typeof tallySchema>
