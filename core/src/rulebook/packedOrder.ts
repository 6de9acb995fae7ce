import { defaultLayouts, type ContentFacts } from '@stern-gate/contract'
import { plainLetter } from './layoutLetters'

/** What the channels of a packed map look like, by letters: o occlusion, r roughness, m metallic. */
export interface PackedOrder {
  order: string
  /** It is the one that is read, or a layout of the rulebook has it. */
  listed: boolean
  /** Of all orders that are possible. */
  probability: number
  /** How well the channels fit the order that is read, from 0 to 1 by each channel, multiplied. */
  fitsAsRead: number
}

const above = (value: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (value - from) / (to - from)))
const below = (value: number, from: number, to: number): number => 1 - above(value, from, to)

/** Nothing is ruled out altogether. */
const LEAST = 0.02

interface Channel {
  mean: number
  deviation: number
  extreme: number
}
type Letter = 'o' | 'r' | 'm'

/** All orders of three channels, and those of a pair. */
const ALL = ['orm', 'omr', 'rom', 'rmo', 'mor', 'mro'],
  PAIRS = ['xrm', 'xmr']
/** An order that no layout of the rulebook has is so much less likely than one that it has. */
const UNLISTED = 0.1

/** Orders that are possible, the one that is read first, each as the rulebook's layouts write it, with how likely. */
function ordersOf(
  layouts: Readonly<Record<string, unknown>>,
  first: boolean,
): { order: string; listed: boolean; weight: number }[] {
  const written = new Map<string, string>()
  for (const order of Object.keys(layouts)) {
    const plain = [...order].map(plainLetter).join('')
    if (!written.has(plain)) written.set(plain, order)
  }
  return (first ? ALL : PAIRS).map((order, n) => {
    const listed = n === 0 || written.has(order)
    // Roughness before gloss where both are listed: turning it round takes a name that says so
    const own = n === 0 || order in layouts ? order : (written.get(order) ?? order)
    return { order: own, listed, weight: listed ? 1 : UNLISTED }
  })
}

/** How well the values of a channel fit what it would carry: occlusion is bright and soft, metal is all or nothing. */
const fits: Readonly<Record<Letter, (c: Channel) => number>> = {
  o: ({ mean, deviation }) => above(mean, 0.55, 0.75) * below(deviation, 0.16, 0.24),
  r: ({ mean, extreme }) => below(extreme, 0.15, 0.5) * above(mean, 0.08, 0.2) * below(mean, 0.86, 0.95),
  m: ({ extreme }) => above(extreme, 0.75, 0.92),
}
/** One value all over: it may be roughness of one value, and no metal is the same as nothing; full says nothing. */
const ofOneValue: Readonly<Record<Letter, (mean: number, isRead: boolean) => number>> = {
  o: (mean) => (mean > 0.97 ? 1 : LEAST),
  r: (mean, isRead) => (isRead ? 1 : mean > 0.08 && mean < 0.92 ? 0.5 : LEAST),
  m: (mean, isRead) => (mean < 0.03 ? 1 : isRead && mean > 0.97 ? 0.5 : LEAST),
}
const FLAT = 0.004

const fitOf = (letter: Letter, channel: Channel, isRead: boolean): number =>
  Math.max(LEAST, channel.deviation < FLAT ? ofOneValue[letter](channel.mean, isRead) : fits[letter](channel))

/**
 * Which order of occlusion, roughness and metallic the channels of a map look like, of those that a rulebook's layouts
 * know. With `first` red counts, too; a map for roughness and metallic alone leaves it free. Gloss cannot be told from
 * roughness: the layout that is known says which it is. Null where there are not three channels.
 */
export function packedOrder(
  content: ContentFacts,
  first: boolean,
  layouts: Readonly<Record<string, unknown>> = defaultLayouts,
): PackedOrder | null {
  if (content.mean.length < 3) return null
  const channels = [0, 1, 2].map((c): Channel => ({
    mean: content.mean[c]!,
    deviation: content.deviation[c]!,
    extreme: content.extreme[c]!,
  }))
  const orders = ordersOf(layouts, first)
  const products = orders.map(({ order, weight }, n) =>
    [...order].reduce(
      (product, letter, at) =>
        letter === 'x' ? product : product * fitOf(plainLetter(letter) as Letter, channels[at]!, n === 0),
      weight,
    ),
  )
  const sum = products.reduce((a, b) => a + b, 0)
  const best = products.indexOf(Math.max(...products))
  const { order, listed } = orders[best]!
  return { order, listed, probability: products[best]! / sum, fitsAsRead: products[0]! }
}
