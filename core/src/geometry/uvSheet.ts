import { append, BLOCK, inBlocks, inKernels, triangleBlocks } from '../kernels/inKernels'

export interface UvSheet {
  islands: number
  /** Root vertex of the island of each triangle. */
  islandOf: Uint32Array
  uvArea: number
  mirrored: Uint32Array
  degenerate: Uint32Array
  outside: number
  tiles: number[]
  /**
   * UV lengths per metre, area-weighted 5, 50 and 95 %; null when nothing has both a surface and an area on
   * the sheet.
   */
  density: { low: number; middle: number; high: number } | null
}

export interface UvSheetInput {
  /** u v for each vertex; v points down, as glTF has it. */
  uv: Float32Array
  indices: Uint32Array
  /** Surface of each triangle in square metres. */
  areas: Float32Array
  /** Each vertex's representative among those of the same place and UV. */
  rep: Uint32Array
  mirrored: 'mirrored' | 'plain'
}

/**
 * A triangle has no area on the sheet below this: a hundredth of a texel at 8192², as in
 * core/kernels/sheet.ts.
 */
export const LEAST_UV_AREA = 0.01 / 8192 ** 2
/** A corner may stand this far beyond the edge: half a texel at 4096. */
const EDGE_TOLERANCE = 0.5 / 4096
const MOST_TILES = 64
/** Bins of surface by the upper half of the 32-bit float of UV area over surface. */
const BINS = 1 << 15

/**
 * Looks at how one UV channel lies on its sheet. Triangles with bad indices or UVs that are no numbers are
 * passed over.
 */
export function uvSheet({ uv, indices, areas, rep, mirrored }: UvSheetInput): UvSheet {
  const triangles = Math.floor(indices.length / 3),
    vertices = Math.min(Math.floor(uv.length / 2), rep.length)
  const mirroredList: number[] = [],
    degenerateList: number[] = [],
    elsewhere: number[] = []
  const islandOf = new Uint32Array(triangles)
  return inKernels((room) => {
    const { run, words } = room
    const held = room.hold(uv),
      reps = room.hold(rep),
      parents = room.space(vertices * 4),
      used = room.space(triangles),
      seen = room.filled(vertices)
    const block = Math.min(triangles, BLOCK) * 4,
      surfaces = room.space(block),
      mirrors = room.space(block),
      small = room.space(block),
      others = room.space(block),
      state = room.filled(32)
    const own = words(parents, vertices)
    for (let v = 0; v < vertices; v++) own[v] = v
    words(state + 8, 2).set([BINS, -1])
    // With v down, a picture that is not mirrored runs clockwise in u and v
    const right = mirrored === 'mirrored' ? 1 : -1
    triangleBlocks(room, indices, (at, from, count) => {
      room.floats(surfaces, count).set(areas.subarray(from, from + count))
      run.surveySheet(
        held,
        vertices,
        at,
        count,
        from,
        surfaces,
        reps,
        parents,
        right,
        used,
        mirrors,
        small,
        others,
        state,
      )
      const found = words(state + 20, 3)
      append(mirroredList, words(mirrors, found[0]!))
      append(degenerateList, words(small, found[1]!))
      append(elsewhere, words(others, found[2]!))
    })
    inBlocks(vertices, (from, to) => {
      run.flatten(parents, from, to)
    })
    let islands = 0
    triangleBlocks(room, indices, (at, from, count) => {
      islands += run.nameIslands(at, count, from, used, reps, parents, seen, surfaces)
      islandOf.set(words(surfaces, count), from)
    })
    const [lowest, highest, inFirst] = words(state + 8, 3) as unknown as [number, number, number]
    const bins = room.doubles(run.densityBins(), BINS).subarray(lowest, (highest | 0) + 1)
    return {
      islands,
      islandOf,
      uvArea: room.doubles(state, 1)[0]!,
      mirrored: Uint32Array.from(mirroredList),
      degenerate: Uint32Array.from(degenerateList),
      ...placesOnSheets(uv, indices, elsewhere, inFirst === 1),
      density: densityOf(bins, lowest),
    }
  })
}

/**
 * How many triangles are outside the first tile, and the tiles that any lies in; `elsewhere` are those that
 * are not all in the first.
 */
function placesOnSheets(
  uv: Float32Array,
  indices: Uint32Array,
  elsewhere: readonly number[],
  inFirst: boolean,
): Pick<UvSheet, 'outside' | 'tiles'> {
  const tiles = new Set<number>()
  let outside = 0,
    lastColumn = NaN,
    lastRow = NaN
  for (const t of elsewhere) {
    const i = indices[t * 3]! * 2,
      j = indices[t * 3 + 1]! * 2,
      k = indices[t * 3 + 2]! * 2
    const au = uv[i]!,
      av = uv[i + 1]!,
      bu = uv[j]!,
      bv = uv[j + 1]!,
      cu = uv[k]!,
      cv = uv[k + 1]!
    if (isOutside(au) || isOutside(bu) || isOutside(cu) || isOutside(av) || isOutside(bv) || isOutside(cv))
      outside++
    const column = Math.floor((au + bu + cu) / 3),
      row = Math.floor(1 - (av + bv + cv) / 3)
    if (column === lastColumn && row === lastRow) continue
    if (tiles.size < MOST_TILES) addTile(tiles, column, row)
    lastColumn = column
    lastRow = row
  }
  if (inFirst) addTile(tiles, 0, 0)
  return { outside, tiles: [...tiles].sort((a, b) => a - b) }
}

const isOutside = (v: number): boolean => v < -EDGE_TOLERANCE || v > 1 + EDGE_TOLERANCE

/** Number of a tile: 1001 at u 0 … 1, ten to a row, rows going up. */
function addTile(tiles: Set<number>, column: number, row: number): void {
  if (column >= 0 && column < 10 && row >= 0 && row < 100) tiles.add(1001 + column + row * 10)
}

/** From bins of surface by density, the first of them numbered `first`; leaves them empty. */
function densityOf(used: Float64Array, first: number): UvSheet['density'] {
  const total = used.reduce((a, b) => a + b, 0)
  const at = (share: number): number => {
    let sum = 0
    for (let b = 0; b < used.length; b++) {
      sum += used[b]!
      if (sum >= total * share) return Math.sqrt(valueOfBin(first + b))
    }
    return 0
  }
  const density = total === 0 ? null : { low: at(0.05), middle: at(0.5), high: at(0.95) }
  used.fill(0)
  return density
}

function valueOfBin(bin: number): number {
  const value = new Float32Array(1)
  new Uint32Array(value.buffer)[0] = (bin << 16) | 0x8000
  return value[0]!
}
