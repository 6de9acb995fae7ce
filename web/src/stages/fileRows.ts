import type { AssetState, BenchTexture } from '@stern-gate/contract'
import type { BroughtFile } from '../api/droppedFiles'
import { pictureAddress } from '../api/client'
import { placeOfPart, type PartMark } from '@stern-gate/core/parts'
import { bytesText } from '../words/formats'

/** One file that a mesh asks for, or that came along. */
export interface FileRow {
  key: string
  title: string
  said: string
  sha: string | null
  link: 'solid' | 'dashed' | 'none'
  missing: boolean
  /** Path that is asked for and did not come. */ wanted: string | null
}

/**
 * More missing tiles than this are counted, not shown: a number far off is more likely a name that means
 * something else.
 */
const TILES_SHOWN = 24

/** What did not come first, then what did. */
export function fileRows(state: AssetState): FileRow[] {
  const beside = state.files.filter((f) => f.part === 'buffer' || f.part === 'surface')
  return [
    ...state.references.filter((r) => r.resolved === null).map((r) => lostReference(state, r)),
    ...state.tileSets.flatMap(missingTiles),
    ...state.textures.map((t) => textureRow(state, t)),
    ...beside.map((f): FileRow => ({
      key: f.path,
      title: f.path,
      said: `${f.part === 'surface' ? 'surface file' : 'geometry'} · ${bytesText(f.sizeBytes)}`,
      sha: null,
      link: 'solid',
      missing: false,
      wanted: null,
    })),
  ]
}

/** A path that leads outside is never followed: its file gets a place beside the mesh, by the name alone. */
function lostReference(state: AssetState, reference: AssetState['references'][number]): FileRow {
  const { kind, asked, unsafe, slots } = reference
  const folder = /^.*\//.exec(state.files.find((f) => f.part === 'mesh')?.path ?? '')?.[0] ?? ''
  const holds =
    kind === 'buffer'
      ? 'holds the geometry'
      : kind === 'library'
        ? 'holds the values and textures of slots'
        : inputsText(slots) || 'no slot uses it'
  return {
    key: asked,
    title: asked,
    said: `${unsafe ? 'did not come, asked for by a path that leads outside' : 'did not come'} · ${holds}`,
    sha: null,
    link: 'dashed',
    missing: true,
    wanted: unsafe ? folder + asked : asked,
  }
}

function missingTiles({ name, tiles, missing }: AssetState['tileSets'][number]): FileRow[] {
  const over = missing.length - TILES_SHOWN
  return missing.slice(0, TILES_SHOWN).map(({ number, path }, i) => {
    const more = over > 0 && i === TILES_SHOWN - 1 ? ` · ${over} more after it` : ''
    return {
      key: path,
      title: path,
      said: `did not come · tile ${number} of ${name}, which runs from ${tiles[0]!.number} to ${tiles.at(-1)!.number}${more}`,
      sha: null,
      link: 'dashed',
      missing: true,
      wanted: path,
    }
  })
}

function textureRow(state: AssetState, t: BenchTexture): FileRow {
  const reference = state.references.find((r) => r.resolved === t.path)
  const set = state.tileSets.find(({ tiles }) => tiles.some((tile) => tile.texture === t.name))
  const oneOfUsed =
    set?.tiles.some(({ texture }) =>
      state.textures.some((other) => other.name === texture && other.uses.length > 0),
    ) ?? false
  const what =
    t.uses.length > 0
      ? inputsText(t.uses)
      : set && oneOfUsed
        ? `tile ${t.tile} of ${set.name}`
        : reference || t.embedded
          ? 'asked for, no slot uses it'
          : 'came along, nothing refers to it'
  const said = [what, t.embedded ? 'inside the mesh file' : reference ? wayFound(reference) : '']
    .filter(Boolean)
    .join(' · ')
  return {
    key: t.name,
    title: t.path ?? t.name,
    said: t.fault ? `cannot be read · ${t.fault.why}` : said,
    sha: pictureAddress(t),
    link: reference || t.embedded || oneOfUsed ? 'solid' : 'none',
    missing: t.fault !== null,
    wanted: null,
  }
}

function wayFound({ asked, how, unsafe }: AssetState['references'][number]): string {
  if (unsafe) return 'asked for by a path that leads outside'
  return how === 'stem'
    ? `taken for ${asked}`
    : how === 'name'
      ? `found by name, asked for as ${asked}`
      : how === 'case'
        ? 'found, with other capitals'
        : ''
}

const inputsText = (uses: readonly { slot: string; input: string }[]): string =>
  [...new Set(uses.map((u) => `${u.input} of ${u.slot}`))].join(', ')

/**
 * The path that is asked for; another kind of file keeps its own extension, so that nothing is called what it
 * is not.
 */
export const placeFor = (asked: string, name: string): string =>
  asked.replace(/(\.[^./]*)?$/, /\.[^.]*$/.exec(name)?.[0] ?? '')

/** Several files at once: each goes to the missing path of its own name, others stay out. */
export function placesByName(rows: readonly FileRow[], files: readonly BroughtFile[]): BroughtFile[] {
  const open = rows.flatMap((r) => (r.wanted === null ? [] : [r.wanted]))
  return files.flatMap(({ path, file }) => {
    const place = open.find((asked) => stemOf(asked) === stemOf(path))
    return place === undefined ? [] : [{ path: placeFor(place, path), file }]
  })
}

/** Places for files that a person gives an asset as a level or as its collision. */
export const placesAs = (mesh: string, as: PartMark, files: readonly BroughtFile[]): BroughtFile[] =>
  files.map(({ path, file }) => ({ path: placeOfPart(mesh, as, path), file }))

const stemOf = (path: string): string =>
  path
    .split('/')
    .at(-1)!
    .replace(/\.[^.]*$/, '')
    .toLowerCase()
