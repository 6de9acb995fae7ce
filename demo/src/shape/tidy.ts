import { pointIds } from '@stern-gate/core/kernels'
import { emptyPiece, type Piece } from './piece'

const MICROMETRE = 1e-6

/**
 * What a careful modeller leaves behind: places rounded to a micrometre so that seams close, equal vertices
 * joined, no triangle without an area, no island mirrored on its sheet.
 */
export function tidy(piece: Piece): Piece {
  const rounded = { ...piece, positions: piece.positions.map((v) => Math.round(v / MICROMETRE) * MICROMETRE) }
  return unmirrored(joined(rounded))
}

function joined(piece: Piece): Piece {
  const numbers = new Map<string, number>(),
    out = emptyPiece()
  const map = Array.from({ length: piece.positions.length / 3 }, (_, v) => {
    const three = (list: number[]): string =>
      [0, 1, 2].map((i) => Math.fround(list[v * 3 + i]!).toFixed(5)).join()
    const two = (list: number[]): string => [0, 1].map((i) => Math.fround(list[v * 2 + i]!).toFixed(6)).join()
    const key = [three(piece.positions), three(piece.normals), two(piece.uvs), two(piece.sheet)].join('|')
    const known = numbers.get(key)
    if (known !== undefined) return known
    const number = out.positions.length / 3
    numbers.set(key, number)
    for (const name of ['positions', 'normals'] as const)
      out[name].push(...piece[name].slice(v * 3, v * 3 + 3))
    for (const name of ['uvs', 'sheet'] as const) out[name].push(...piece[name].slice(v * 2, v * 2 + 2))
    return number
  })
  for (let k = 0; k < piece.indices.length; k += 3) {
    const [a, b, c] = [map[piece.indices[k]!]!, map[piece.indices[k + 1]!]!, map[piece.indices[k + 2]!]!]
    if (a !== b && b !== c && a !== c && area(out.positions, a, b, c) > 1e-12) out.indices.push(a, b, c)
  }
  return out
}

function area(p: number[], a: number, b: number, c: number): number {
  const u = [0, 1, 2].map((i) => p[b * 3 + i]! - p[a * 3 + i]!),
    v = [0, 1, 2].map((i) => p[c * 3 + i]! - p[a * 3 + i]!)
  return (
    Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) /
    2
  )
}

/** Turns islands over that run counter-clockwise with v down, about their own middle. */
function unmirrored(piece: Piece): Piece {
  return { ...piece, uvs: turnOver(piece, piece.uvs), sheet: turnOver(piece, piece.sheet) }
}

function turnOver(piece: Piece, uv: number[]): number[] {
  const island = islandsOf(piece, uv)
  const sums = new Map<number, { signed: number; low: number; high: number }>()
  for (let k = 0; k < piece.indices.length; k += 3) {
    const [a, b, c] = [piece.indices[k]! * 2, piece.indices[k + 1]! * 2, piece.indices[k + 2]! * 2]
    const sum = sums.get(island[a / 2]!) ?? { signed: 0, low: Infinity, high: -Infinity }
    sum.signed +=
      (uv[b]! - uv[a]!) * (uv[c + 1]! - uv[a + 1]!) - (uv[c]! - uv[a]!) * (uv[b + 1]! - uv[a + 1]!)
    sum.low = Math.min(sum.low, uv[a]!, uv[b]!, uv[c]!)
    sum.high = Math.max(sum.high, uv[a]!, uv[b]!, uv[c]!)
    sums.set(island[a / 2]!, sum)
  }
  return uv.map((value, k) => {
    const sum = sums.get(island[k >> 1]!)
    return k % 2 === 0 && sum && sum.signed > 0 ? sum.low + sum.high - value : value
  })
}

/** Islands by vertices that share a place and a UV. */
function islandsOf(piece: Piece, uv: number[]): number[] {
  const { ids } = pointIds(Float32Array.from(piece.positions)),
    first = new Map<string, number>()
  const parent = Array.from(ids, (point, v) => {
    const key = `${point} ${uv[v * 2]!.toFixed(6)} ${uv[v * 2 + 1]!.toFixed(6)}`
    if (!first.has(key)) first.set(key, v)
    return first.get(key)!
  })
  const find = (v: number): number => (parent[v] === v ? v : (parent[v] = find(parent[v]!)))
  for (let k = 0; k < piece.indices.length; k += 3)
    for (const i of [1, 2]) parent[find(piece.indices[k + i]!)] = find(piece.indices[k]!)
  return parent.map((_, v) => find(v))
}

/**
 * Returns the piece with each island of its texture channel scaled about its lower corner so that it has so
 * many sheets a metre.
 */
export function evenDensity(piece: Piece, sheetsPerMetre: number): Piece {
  const island = islandsOf(piece, piece.uvs)
  const sums = new Map<number, { surface: number; sheet: number; u: number; v: number }>()
  for (let k = 0; k < piece.indices.length; k += 3) {
    const [a, b, c] = [piece.indices[k]!, piece.indices[k + 1]!, piece.indices[k + 2]!]
    const sum = sums.get(island[a]!) ?? { surface: 0, sheet: 0, u: Infinity, v: Infinity }
    sum.surface += area(piece.positions, a, b, c)
    sum.sheet +=
      Math.abs(
        (piece.uvs[b * 2]! - piece.uvs[a * 2]!) * (piece.uvs[c * 2 + 1]! - piece.uvs[a * 2 + 1]!) -
          (piece.uvs[c * 2]! - piece.uvs[a * 2]!) * (piece.uvs[b * 2 + 1]! - piece.uvs[a * 2 + 1]!),
      ) / 2
    for (const v of [a, b, c]) {
      sum.u = Math.min(sum.u, piece.uvs[v * 2]!)
      sum.v = Math.min(sum.v, piece.uvs[v * 2 + 1]!)
    }
    sums.set(island[a]!, sum)
  }
  const uvs = piece.uvs.map((value, k) => {
    const sum = sums.get(island[k >> 1]!)
    if (!sum || sum.sheet === 0) return value
    const low = k % 2 === 0 ? sum.u : sum.v
    return low + (value - low) * sheetsPerMetre * Math.sqrt(sum.surface / sum.sheet)
  })
  return { ...piece, uvs }
}
