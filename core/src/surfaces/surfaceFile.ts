import {
  bad,
  good,
  SURFACE_FILE,
  surfaceFileSchema,
  type Outcome,
  type RemedyOptions,
  type SlotFacts,
  type SurfaceFile,
} from '@stern-gate/contract'
import { hexOfLinear } from './hexColour'
import { detailInputs, layerInputs } from '../scene/addedInputs'
import { DETAIL } from './detailMap'
import { optionsOfLayer, SECOND_LAYER } from './secondLayer'
import { SURFACE } from './sharedSurfaces'
import { slotValuesAsOptions } from './slotValuesAsOptions'
import { tintNames } from './tintsAfter'

/** The surface of a slot as it stands in a file; `fileOf` says where the file of a picture is, by its number. */
export function surfaceFileOf(slot: SlotFacts, fileOf: (image: number) => string | null): SurfaceFile {
  return {
    form: SURFACE_FILE,
    slot: slot.name,
    surface: slot.surface,
    values: slotValuesAsOptions(slot),
    textures: slot.textures.map(({ input, field, image, channel, placement }) => ({
      input,
      field,
      file: image === null ? null : fileOf(image),
      uv: channel,
      tiling: placement?.tiling ?? [1, 1],
      offset: placement?.offset ?? [0, 0],
      turn: ((placement?.turn ?? 0) * 180) / Math.PI,
    })),
    tints: slot.tints,
    alphaMeans: slot.alphaMeaning,
    layer: slot.layer,
    detail: slot.detail,
  }
}

/** Reads a surface file. Faults: file/unsupported, where the text is none. */
export function readSurfaceFile(text: string): Outcome<SurfaceFile> {
  let value: unknown = null
  try {
    value = JSON.parse(text) as unknown
  } catch {
    return bad('file/unsupported', 'It is no JSON.', 'Choose a file that ends in .surface.json.')
  }
  const read = surfaceFileSchema.safeParse(value)
  if (read.success) return good(read.data)
  const issue = read.error.issues[0]!
  return bad(
    'file/unsupported',
    `It is no surface file: ${[...issue.path, issue.message].join(' ')}.`,
    'Its schema is published as surface.',
    { part: issue.path.join('.') },
  )
}

export interface SurfaceStep {
  remedy: string
  options: RemedyOptions
}

const placedAs = {
  basecolor: 'basecolor',
  normal: 'normal',
  orm: 'roughness',
  'metallic-roughness': 'roughness',
  occlusion: 'occlusion',
  emissive: 'emissive',
} as const

/** Inputs that a step can feed with a texture as it is, by their name in a file. */
const fedAs: Readonly<Record<string, string>> = {
  baseColorTexture: 'basecolor',
  normalTexture: 'normal',
  emissiveTexture: 'emissive',
  height: 'height',
  tint: 'tint',
}
const FEED = 'slots/feed'

/**
 * The steps that give the surface of a file to a slot: textures, values, placements, tints, detail map and the second
 * layer. `nameOf` says which texture of the asset a file is; textures that it has not stay those of the slot.
 */
export function stepsOfSurfaceFile(
  file: SurfaceFile,
  slot: SlotFacts,
  nameOf: (file: string) => string | null = () => null,
): SurfaceStep[] {
  const { name } = slot
  const called = file.surface ?? 'values'
  const fed = fedInputs(file, nameOf)
  const steps: SurfaceStep[] = []
  if (Object.keys(fed).length > 0) steps.push({ remedy: FEED, options: { slot: name, ...fed } })
  steps.push({ remedy: SURFACE, options: { slot: name, called, ...file.values } })
  for (const [input, place] of placesOf(file)) {
    const has = input in fed || slot.textures.some((t) => t.input !== 'other' && placedAs[t.input] === input)
    if (has) steps.push({ remedy: 'slots/place-texture', options: { slot: name, input, ...place } })
  }
  if (file.tints.length > 0 || file.alphaMeans)
    steps.push({
      remedy: 'slots/tint',
      options: {
        slot: name,
        ...Object.fromEntries(
          file.tints.flatMap(({ channel, colour, strength }) => [
            [tintNames[channel], hexOfLinear(colour)],
            [`${tintNames[channel]}Strength`, strength],
          ]),
        ),
        ...(file.alphaMeans ? { alphaMeans: file.alphaMeans } : {}),
      },
    })
  if (file.detail)
    steps.push({
      remedy: DETAIL,
      options: { slot: name, ...file.detail, ...namedBy(file, detailInputs, nameOf) },
    })
  if (file.layer)
    steps.push({
      remedy: SECOND_LAYER,
      options: { slot: name, ...optionsOfLayer(file.layer), ...namedBy(file, layerInputs, nameOf) },
    })
  return steps
}

type NameOf = (file: string) => string | null

/** Textures of the asset by the input that the file feeds with them; a packed map goes as one. */
function fedInputs({ textures }: SurfaceFile, nameOf: NameOf): Record<string, string> {
  const fed: Record<string, string> = {}
  for (const { input, field, file } of textures) {
    const name = file === null ? null : nameOf(file),
      as = input === 'orm' ? 'orm' : fedAs[field]
    if (name !== null && as) fed[as] = name
  }
  return fed
}

/** Textures of the asset by the option of a step, where its inputs have one. */
const namedBy = (
  { textures }: SurfaceFile,
  inputs: Readonly<Record<string, string>>,
  nameOf: NameOf,
): Record<string, string> =>
  Object.fromEntries(
    Object.entries(inputs).flatMap(([option, input]) => {
      const file = textures.find((t) => t.field === input)?.file
      const name = file == null ? null : nameOf(file)
      return name === null ? [] : [[option, name]]
    }),
  )

/** Placements by the input that slots/place-texture names, where they are not the plain one. */
function placesOf({ textures }: SurfaceFile): Map<string, RemedyOptions> {
  const places = new Map<string, RemedyOptions>()
  for (const { input, uv, tiling, offset, turn } of textures) {
    const isPlain = uv === 0 && turn === 0 && [...tiling, ...offset].join() === '1,1,0,0'
    if (input === 'other' || isPlain) continue
    places.set(placedAs[input], {
      channel: uv,
      tilingU: tiling[0],
      tilingV: tiling[1],
      offsetU: offset[0],
      offsetV: offset[1],
      turn,
    })
  }
  return places
}
