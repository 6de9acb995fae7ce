/** A line of an assignment may take this column at this cost. */
export interface Offer {
  line: number
  column: number
  cost: number
}

/**
 * Gives each line at most one column so that the costs are least together, by shortest augmenting paths
 * (Ford and Fulkerson, Flows in Networks, 1962). A line that takes none costs `open`. A
 * column may serve several lines; each after the first pays `price` on top. Gives the place of each line's offer
 * in `offers`, or −1.
 */
export function assignCheapest(
  lines: number,
  columns: number,
  offers: readonly Offer[],
  { open, price }: { open: number; price: number },
): Int32Array {
  const of = offersByLine(lines, offers)
  const taken = new Int32Array(lines).fill(-1)
  const users: number[][] = Array.from({ length: columns }, () => [])
  for (let line = 0; line < lines; line++) {
    if (of[line]!.length === 0) continue
    augment(line, { of, offers, taken, users, open, price })
  }
  return taken
}

interface Flow {
  of: readonly (readonly number[])[]
  offers: readonly Offer[]
  taken: Int32Array
  users: number[][]
  open: number
  price: number
}

/**
 * Brings one more line in at the least cost. Lines that have to give their column up are asked in turn for
 * another (Bellman and Ford's way with a queue: costs may be below nought); the way ends at a column that is free
 * or is shared for the price, or with a line that stays open.
 */
function augment(start: number, flow: Flow): void {
  const { of, offers, taken, users, open, price } = flow
  const cost = new Map<number, number>([[start, 0]])
  // How a line came to need another column: the line that took its column, and by which offer
  const cameBy = new Map<number, { line: number; offer: number }>()
  const queue = [start]
  const left = new Map<number, number>()
  let best = open,
    end: { line: number; offer: number } = { line: start, offer: -1 }
  while (queue.length > 0) {
    const line = queue.shift()!,
      here = cost.get(line)!
    left.set(line, (left.get(line) ?? 0) + 1)
    if (here + open < best - SMALL) {
      best = here + open
      end = { line, offer: -1 }
    }
    for (const index of of[line]!) {
      const { column, cost: own } = offers[index]!
      if (index === taken[line]) continue
      const total = here + own + (users[column]!.length > 0 ? price : 0)
      if (total < best - SMALL) {
        best = total
        end = { line, offer: index }
      }
      for (const user of users[column]!) {
        if (user === line || user === start) continue
        const moved = here + own - offers[taken[user]!]!.cost
        if (moved >= (cost.get(user) ?? Infinity) - SMALL || (left.get(user) ?? 0) > MOST_VISITS) continue
        cost.set(user, moved)
        cameBy.set(user, { line, offer: index })
        queue.push(user)
      }
    }
  }
  let { line, offer } = end
  const seen = new Set<number>()
  for (;;) {
    const before = taken[line]!
    if (before >= 0) users[offers[before]!.column] = users[offers[before]!.column]!.filter((u) => u !== line)
    taken[line] = offer
    if (offer >= 0) users[offers[offer]!.column]!.push(line)
    const from = cameBy.get(line)
    seen.add(line)
    if (line === start || !from || seen.has(from.line)) return
    line = from.line
    offer = from.offer
  }
}

const SMALL = 1e-9
/** A line is not asked more often than this; with rounding, circles of no gain could run on. */
const MOST_VISITS = 40

function offersByLine(lines: number, offers: readonly Offer[]): number[][] {
  const of: number[][] = Array.from({ length: lines }, () => [])
  offers.forEach(({ line }, index) => of[line]!.push(index))
  return of
}
