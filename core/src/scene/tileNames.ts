import { fileStem } from '../read/deliveryPath'

/** Tiles of the numbering run from 1001, ten to a row. */
const TILE = /[._](1\d{3})$/

/** Tile number at the end of a texture's name, before its extension; null when there is none. */
export function tileOf(name: string): number | null {
  const number = Number(TILE.exec(fileStem(name))?.[1] ?? 0)
  return number >= 1001 ? number : null
}

/** A stem without its tile number. */
export const withoutTile = (stem: string): string => stem.replace(TILE, '')

/** Sequences of at least two tiles that share a name, each taken as one texture, tiles in rising order. */
export function tileSetsOf(textures: readonly { name: string }[]): { name: string; tiles: { number: number; texture: string }[] }[] {
  const sets = new Map<string, { number: number; texture: string }[]>()
  for (const { name } of textures) {
    const number = tileOf(name)
    if (number === null) continue
    const key = withoutTile(fileStem(name))
    sets.set(key, [...(sets.get(key) ?? []), { number, texture: name }])
  }
  return [...sets].filter(([, tiles]) => tiles.length > 1).map(([name, tiles]) => ({ name, tiles: tiles.sort((a, b) => a.number - b.number) }))
}
