import { disjointSets } from './disjointSets'

export interface UvSheet {
  islands: number
  /** Root vertex of the island of each triangle. */
  islandOf: Uint32Array
  uvArea: number
  mirrored: Uint32Array
  degenerate: Uint32Array
  outside: number
  tiles: number[]
  /** UV lengths per metre, area-weighted 5, 50 and 95 %; null when nothing has both a surface and an area on the sheet. */
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

/** A triangle has no area on the sheet below this: a hundredth of a texel at 8192². */
export const LEAST_UV_AREA = 0.01 / 8192 ** 2
/** A corner may stand this far beyond the edge: half a texel at 4096. */
const EDGE_TOLERANCE = 0.5 / 4096
const MOST_TILES = 64
/** Ratios are sorted by the upper half of their 32-bit float: 128 bins an octave, a third of a per cent once the root is taken. */
const BINS = 1 << 15
/** Empty between calls: a new one for each of many small sheets would take longer than the sheets. */
const bins = new Float64Array(BINS)

/** Looks at how one UV channel lies on its sheet. Triangles with bad indices or UVs that are no numbers are passed over. */
export function uvSheet({ uv, indices, areas, rep, mirrored }: UvSheetInput): UvSheet {
  const triangles = Math.floor(indices.length / 3), vertices = uv.length / 2
  const sets = disjointSets(vertices)
  const ratio = new Float32Array(1), ratioBits = new Uint32Array(ratio.buffer)
  const mirroredList: number[] = [], degenerateList: number[] = []
  const tiles = new Set<number>()
  // With v down, a picture that is not mirrored runs clockwise in u and v
  const right = mirrored === 'mirrored' ? 1 : -1
  let uvArea = 0, outside = 0, lowest = BINS, highest = -1, lastColumn = NaN, lastRow = NaN, inFirst = false
  const used = new Uint8Array(triangles)
  for (let t = 0; t < triangles; t++) {
    const i = indices[t * 3]!, j = indices[t * 3 + 1]!, k = indices[t * 3 + 2]!
    if (i >= vertices || j >= vertices || k >= vertices) continue
    const au = uv[i * 2]!, av = uv[i * 2 + 1]!, bu = uv[j * 2]!, bv = uv[j * 2 + 1]!, cu = uv[k * 2]!, cv = uv[k * 2 + 1]!
    const signed = ((bu - au) * (cv - av) - (cu - au) * (bv - av)) / 2
    if (signed !== signed) continue
    used[t] = 1
    sets.join(rep[i]!, rep[j]!)
    sets.join(rep[j]!, rep[k]!)
    const area = Math.abs(signed)
    uvArea += area
    if (area <= LEAST_UV_AREA) {
      if (areas[t]! > 0) degenerateList.push(t)
      continue
    }
    if (signed * right < 0) mirroredList.push(t)
    if (au >= 0 && au <= 1 && bu >= 0 && bu <= 1 && cu >= 0 && cu <= 1 && av >= 0 && av <= 1 && bv >= 0 && bv <= 1 && cv >= 0 && cv <= 1) {
      // With an area it is in the first tile: nothing more to ask, for nearly all of nearly every mesh
      inFirst = true
    } else {
      if (isOutside(au) || isOutside(bu) || isOutside(cu) || isOutside(av) || isOutside(bv) || isOutside(cv)) outside++
      const column = Math.floor((au + bu + cu) / 3), row = Math.floor(1 - (av + bv + cv) / 3)
      if (column !== lastColumn || row !== lastRow) {
        if (tiles.size < MOST_TILES) addTile(tiles, column, row)
        lastColumn = column
        lastRow = row
      }
    }
    const surface = areas[t]!
    if (surface > 0) {
      ratio[0] = area / surface
      const bin = ratioBits[0]! >>> 16
      bins[bin]! += surface
      if (bin < lowest) lowest = bin
      if (bin > highest) highest = bin
    }
  }
  if (inFirst) addTile(tiles, 0, 0)
  const islandOf = new Uint32Array(triangles).fill(0xffffffff)
  const roots = new Uint8Array(vertices)
  let islands = 0
  const { parents } = sets
  // What a vertex hangs under comes before it and by then hangs under the root itself
  for (let v = 0; v < vertices; v++) parents[v] = parents[parents[v]!]!
  for (let t = 0; t < triangles; t++) {
    if (!used[t]) continue
    const root = parents[rep[indices[t * 3]!]!]!
    islandOf[t] = root
    if (!roots[root]) {
      roots[root] = 1
      islands++
    }
  }
  return { islands, islandOf, uvArea, mirrored: Uint32Array.from(mirroredList), degenerate: Uint32Array.from(degenerateList), outside, tiles: [...tiles].sort((a, b) => a - b), density: densityOf(bins.subarray(lowest, highest + 1), lowest) }
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
