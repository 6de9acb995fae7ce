/** Sets of numbers that can be joined; path halving, the smaller number stays the root. */
export interface DisjointSets {
  find: (i: number) => number
  join: (a: number, b: number) => void
  parents: Uint32Array
}

export function disjointSets(count: number): DisjointSets {
  const parents = new Uint32Array(count)
  for (let i = 0; i < count; i++) parents[i] = i
  const find = (i: number): number => {
    let at = i
    while (parents[at] !== at) {
      parents[at] = parents[parents[at]!]!
      at = parents[at]!
    }
    return at
  }
  const join = (a: number, b: number): void => {
    // Most are joined already, and hang under the same number
    if (parents[a] === parents[b]) return
    const x = find(a),
      y = find(b)
    if (x < y) parents[y] = x
    else if (y < x) parents[x] = y
  }
  return { find, join, parents }
}
