/** A tile of a treemap, in the units of its area. */
export interface Tile<Thing> {
  thing: Thing
  x: number
  y: number
  width: number
  height: number
}

/**
 * Lays things as tiles whose areas are as their values, as near to squares as rows allow (squarified treemap: Bruls,
 * Huizing, van Wijk 2000). Things without a value are left out.
 */
export function layTiles<Thing>(
  things: readonly Thing[],
  valueOf: (thing: Thing) => number,
  width: number,
  height: number,
): Tile<Thing>[] {
  const all = things.filter((t) => valueOf(t) > 0).sort((a, b) => valueOf(b) - valueOf(a))
  const total = all.reduce((sum, t) => sum + valueOf(t), 0)
  const area = (t: Thing): number => (valueOf(t) / total) * width * height
  const tiles: Tile<Thing>[] = []
  let x = 0,
    y = 0,
    w = width,
    h = height
  for (let from = 0; from < all.length;) {
    const side = Math.min(w, h)
    let to = from + 1
    while (
      to < all.length &&
      worst(all.slice(from, to + 1).map(area), side) <= worst(all.slice(from, to).map(area), side)
    )
      to++
    const row = all.slice(from, to),
      sum = row.reduce((s, t) => s + area(t), 0),
      deep = side > 0 ? sum / side : 0
    let at = 0
    for (const thing of row) {
      const long = deep > 0 ? area(thing) / deep : 0
      tiles.push(
        w >= h
          ? { thing, x, y: y + at, width: deep, height: long }
          : { thing, x: x + at, y, width: long, height: deep },
      )
      at += long
    }
    if (w >= h) {
      x += deep
      w -= deep
    } else {
      y += deep
      h -= deep
    }
    from = to
  }
  return tiles
}

/** The worst ratio of sides in a row of such areas along a side. */
function worst(areas: readonly number[], side: number): number {
  const sum = areas.reduce((a, b) => a + b, 0)
  return Math.max(
    (side * side * Math.max(...areas)) / (sum * sum),
    (sum * sum) / (side * side * Math.min(...areas)),
  )
}
