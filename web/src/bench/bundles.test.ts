import { describe, expect, it } from 'vitest'
import type { Finding } from '@stern-gate/contract'
import { remedies } from '@stern-gate/core'
import { formatCount } from '@stern-gate/core/numbers'
import { actOf, bundlesOf, listedOf, MOST_LISTED, wholesale } from './bundles'

const finding = (
  rule: string,
  n: number,
  options: Finding['remedies'][number]['options'] | null,
  label = 'Rename to x',
): Finding =>
  ({
    rule,
    station: 'names',
    level: 'stop',
    text: `${rule} ${n}`,
    place: { kind: 'asset' },
    gauge: null,
    fingerprint: `${rule}${n}`,
    also: [],
    remedies: options ? [{ remedy: 'names/rename', options, label, also: [] }] : [],
  }) as unknown as Finding

describe('bundles', () => {
  it('hold three and more of one rule; the order is that of the first of each', () => {
    const list = [
      finding('a', 1, null),
      finding('b', 1, null),
      finding('a', 2, null),
      finding('a', 3, null),
      finding('b', 2, null),
    ]
    expect(bundlesOf(list).map((b) => b.findings.map((f) => f.fingerprint))).toEqual([
      ['a1', 'a2', 'a3'],
      ['b1'],
      ['b2'],
    ])
  })
  it('do what all have in common by one act, nodes from the deepest up', () => {
    const list = [
      finding('a', 1, { name: 'root' }, 'Rename to p'),
      finding('a', 2, { name: 'root/arm/hand' }, 'Rename to q'),
      finding('a', 3, { name: 'root/arm' }, 'Rename to r'),
    ]
    const act = actOf(list, 200)!
    expect([act.label, act.offers.map((o) => o.options['name'])]).toEqual([
      'All 3: Rename to …',
      ['root/arm/hand', 'root/arm', 'root'],
    ])
  })
  it('leave out those that have no remedy, and what the recipe has no room for', () => {
    const list = [finding('a', 1, { name: 'k' }), finding('a', 2, null), finding('a', 3, { name: 'l' })]
    expect(actOf(list, 200)!.label).toBe('2 of 3: Rename to x')
    expect(actOf(list, 1)).toBeNull()
  })
  it('count places where a finding stands for several alike nodes', () => {
    const twice = finding('a', 1, { name: 'k' })
    twice.also = [{ kind: 'asset' }]
    twice.remedies[0]!.also = [{ name: 'm' }]
    const two = [finding('a', 2, { name: 'l' }), finding('a', 3, { name: 'n' })]
    expect(actOf([twice, ...two], 200)!.label).toBe('All 4 places: Rename to x')
    expect(actOf([twice, ...two], 3)!.label).toBe('3 of 4 places: Rename to x')
    expect(actOf([twice, finding('a', 2, null)], 200)!.label).toBe('2 of 3 places: Rename to x')
  })
  it('of many nodes one step does it, where the remedy touches nothing but what has the fault', () => {
    const many = (remedy: string, more = {}) =>
      Array.from({ length: 3000 }, (_, n) => ({
        ...finding('a', n, null),
        remedies: [{ remedy, options: { node: `stone ${n}`, ...more }, label: 'Bake it', also: [] }],
      }))
    expect(actOf(many('scale/bake-transform'), 200)).toEqual({
      offers: [{ remedy: 'scale/bake-transform', options: { node: null }, label: 'Bake it', also: [] }],
      label: `All ${formatCount(3000)}: Bake it`,
    })
    // Colours that vary elsewhere would go as well
    expect(actOf(many('mesh/drop-colours', { set: 0 }), 200)!.offers).toHaveLength(200)
    expect(actOf(many('scale/bake-transform').slice(0, 5), 200)!.offers).toHaveLength(5)
    expect(
      actOf(
        many('mesh/fill-holes').map((f, n) => ({
          ...f,
          remedies: [{ ...f.remedies[0]!, options: { node: 'k', most: n } }],
        })),
        200,
      )!.offers,
    ).toHaveLength(200)
  })
  it('every such remedy takes no node for everywhere', () => {
    for (const id of wholesale)
      expect(remedies.find((r) => r.id === id)?.options.safeParse({ node: null }).success, id).toBe(true)
  })
  it('list the first ones when they are many, or those around the chosen one', () => {
    const list = Array.from({ length: 1000 }, (_, n) => finding('a', n, null))
    expect(listedOf(list.slice(0, 5), null)).toHaveLength(5)
    expect([
      listedOf(list, null)[0],
      listedOf(list, list[500]!)[0],
      listedOf(list, list[999]!).at(-1),
    ]).toEqual([list[0], list[500 - MOST_LISTED / 2], list[999]])
    expect([null, list[3]!, list[500]!, list[999]!].map((f) => listedOf(list, f).length)).toEqual([
      60, 60, 60, 60,
    ])
  })
  it('need no act of their own where one step does it for all', () =>
    expect(
      actOf(
        [1, 2, 3].map((n) => finding('a', n, { distance: 1 })),
        200,
      ),
    ).toBeNull())
})
