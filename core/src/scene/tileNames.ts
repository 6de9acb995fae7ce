/** Tiles of the numbering run from 1001, ten to a row. */
const TILE = /[._](1\d{3})$/

/** Tile number at the end of a texture's name, without its extension; null when there is none. */
export function tileOf(stem: string): number | null {
  const number = Number(TILE.exec(stem)?.[1] ?? 0)
  return number >= 1001 ? number : null
}

/** A stem without its tile number. */
export const withoutTile = (stem: string): string => stem.replace(TILE, '')

/** Textures that share a name but for the number at its end. */
export interface TileSet {
  name: string
  tiles: { number: number; texture: string }[]
  /** Numbers in between that did not come, each with the path where it would be looked for. */ missing: {
    number: number
    path: string
  }[]
}

/** Sequences of at least two tiles that share a name, each taken as one texture, tiles in rising order. */
export function tileSetsOf(
  textures: readonly { name: string; stem: string; path: string | null; tile: number | null }[],
): TileSet[] {
  if (!textures.some((t) => t.tile !== null)) return []
  const sets = new Map<string, { number: number; texture: string; path: string }[]>()
  for (const { name, stem, path, tile: number } of textures) {
    if (number === null) continue
    const key = withoutTile(stem),
      tile = { number, texture: name, path: path ?? name },
      known = sets.get(key)
    if (known) known.push(tile)
    else sets.set(key, [tile])
  }
  return [...sets]
    .filter(([, tiles]) => tiles.length > 1)
    .map(([name, found]) => {
      const tiles = found.sort((a, b) => a.number - b.number)
      const missing = missingTiles(tiles.map((t) => t.number)).map((number) => ({
        number,
        path: pathOfTile(tiles[0]!.path, number),
      }))
      return { name, tiles: tiles.map(({ number, texture }) => ({ number, texture })), missing }
    })
}

/**
 * Numbers between the first and the last that are not there, given in rising order; between rows only columns
 * that another row uses count.
 */
export function missingTiles(numbers: readonly number[]): number[] {
  const have = new Set(numbers),
    columns = new Set(numbers.map((n) => (n - 1001) % 10))
  const oneRow = Math.floor((numbers[0]! - 1001) / 10) === Math.floor((numbers.at(-1)! - 1001) / 10)
  const missing: number[] = []
  for (let n = numbers[0]!; n < numbers.at(-1)!; n++)
    if (!have.has(n) && (oneRow || columns.has((n - 1001) % 10))) missing.push(n)
  return missing
}

/** The path of one tile with the number of another. */
const pathOfTile = (path: string, number: number): string =>
  path.replace(/1\d{3}(\.[^./]*)?$/, (_, extension: string | undefined) => `${number}${extension ?? ''}`)
