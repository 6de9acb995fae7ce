import { describe, expect, it } from 'vitest'
import type { ScenePlan } from '@stern-gate/contract'
import { shedNodes, type SceneFixtureNode } from '../fixtures/sceneFixture'
import { factsOf, plan } from '../fixtures/takenScene'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { compareParts, keptPart } from './compareParts'
import { holdsSeveral, partsByPlan, proposeWays } from './proposeParts'

const names = (nodes: Awaited<ReturnType<typeof factsOf>>, p: ScenePlan) =>
  partsByPlan(nodes, p, 'shed', defaultRulebook).parts.map((part) => part.name)

describe('proposing how a scene is taken apart', () => {
  it('by top nodes: copies are one asset, levels and hull go with their thing, the figure is left out', async () => {
    const { parts } = partsByPlan(await factsOf(shedNodes), plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => [p.name, p.nodes.length, p.copies.length, p.left])).toEqual([
      ['shed_table', 1, 0, null],
      ['shed_stool', 1, 3, null],
      ['shed_door', 3, 0, null],
      ['shed_shelf', 3, 0, null],
      ['shed_figure', 1, 0, 'figure'],
    ])
    const door = parts[2]!
    expect([door.levels, door.collision, door.triangles, door.slots]).toEqual([2, true, 12, ['paint']])
  })
  it('each way with its own number of parts', async () => {
    const ways = proposeWays(await factsOf(shedNodes), 'shed', defaultRulebook)
    expect(ways.map((w) => [w.way, w.parts.length])).toEqual([
      ['top', 5],
      ['groups', 5],
      ['name', 6],
      ['distance', 5],
      ['nodes', 6],
      ['whole', 1],
    ])
  })
  it('by name: as many first words as make the most groups', async () => {
    const nodes = ['crate_oak_lid', 'crate_oak_body', 'crate_tin_lid', 'crate_tin_body'].map((name, i) => ({
      name,
      at: [i * 4, 0, 0] as [number, number, number],
      box: [1 + i, 1, 1] as [number, number, number],
    }))
    const way = partsByPlan(await factsOf(nodes), plan({ way: 'name' }), 'shed', defaultRulebook)
    expect(way.words).toBe(2)
    expect(way.parts.map((p) => p.nodes)).toEqual([
      ['crate_oak_lid', 'crate_oak_body'],
      ['crate_tin_lid', 'crate_tin_body'],
    ])
  })
  it('by distance: what touches or nearly touches is one thing, called after its largest part', async () => {
    const nodes: SceneFixtureNode[] = [
      { name: 'cup', at: [0, 0.8, 0], box: [0.1, 0.1, 0.1] },
      { name: 'big_table', at: [0, 0, 0], box: [1, 0.79, 1] },
      { name: 'far_box', at: [9, 0, 0], box: [1, 1, 1] },
    ]
    const facts = await factsOf(nodes)
    const at = (distance: number) => names(facts, plan({ way: 'distance', distance }))
    expect(at(0.02)).toEqual(['big_table', 'far_box'])
    expect(at(0.005)).toEqual(['shed_cup', 'big_table', 'far_box'])
    expect(at(20)).toEqual(['far_box'])
  })
  it('parts are joined, split, left out, kept and named by their keys', async () => {
    const facts = await factsOf(shedNodes)
    const key = (name: string) => `shed/${name}`
    const edited = partsByPlan(
      facts,
      plan({
        joined: [[key('shed_table'), key('shed_door_lod0')]],
        split: [key('shed_shelf')],
        left: [key('shed_stool.001')],
        kept: [key('figure')],
        names: { [key('shed_table')]: 'shed_corner' },
      }),
      'shed',
      defaultRulebook,
    ).parts
    expect(edited.map((p) => [p.name, p.nodes.length, p.copies.length, p.left])).toEqual([
      ['shed_corner', 4, 0, null],
      ['shed_stool', 1, 3, 'asked'],
      ['shed_board', 1, 1, null],
      ['shed_bracket', 1, 0, null],
      ['shed_figure', 1, 0, null],
    ])
  })
  it('many things called figures are no reference figures', async () => {
    const board = ['figure_king', 'figure_queen', 'figure_rook'].map((name, i) => ({
      name,
      at: [i, 0, 0] as [number, number, number],
      box: [0.1, 0.1 + i / 50, 0.1] as [number, number, number],
    }))
    const { parts } = partsByPlan(await factsOf(board), plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => p.left)).toEqual([null, null, null])
  })
  it('a person without a telling name is pointed at and not left out; a door is no person', async () => {
    const { parts } = partsByPlan(
      await factsOf([
        { name: 'Body_01', at: [0, 0, 0], box: [0.6, 1.8, 0.3], fine: 4 },
        { name: 'net_rack', at: [-5, 0, 0], box: [1.36, 1.8, 0.2], fine: 4 },
        { name: 'turned_door', at: [-9, 0, 0], turn: 24, box: [0.65, 1.95, 0.05] },
        { name: 'door_leaf', at: [5, 0, 0], box: [0.9, 2, 0.05] },
        { name: 'large_box', at: [9, 0, 0], box: [2, 2, 2] },
      ]),
      plan(),
      'shed',
      defaultRulebook,
    )
    expect(parts.map((p) => [p.humanSize, p.left])).toEqual([
      [true, null],
      [false, null],
      [false, null],
      [false, null],
      [false, null],
    ])
  })
  it('says of a file whether it looks like several things', async () => {
    const is = async (nodes: SceneFixtureNode[]) => holdsSeveral(await factsOf(nodes), defaultRulebook)
    const box: [number, number, number] = [1, 1, 1]
    expect(await is(shedNodes)).toBe(true)
    expect(await is([{ name: 'crate', box }])).toBe(false)
    expect(
      await is([
        { name: 'crate', box },
        { name: 'lid', at: [0, 1, 0], box: [1, 0.1, 1] },
      ]),
    ).toBe(false)
    expect(
      await is([
        { name: 'crate_lod0', box },
        { name: 'crate_lod1', at: [3, 0, 0], box },
      ]),
    ).toBe(false)
  })
  it('500 objects in a grid: seven sizes are seven things with their copies, by whatever name', async () => {
    const many = Array.from({ length: 500 }, (_, i): SceneFixtureNode => ({
      name: `thing_${i}`,
      at: [(i % 25) * 2, 0, Math.floor(i / 25) * 2],
      box: [1 + (i % 7) / 10, 1, 1],
    }))
    const facts = await factsOf(many)
    const { parts } = partsByPlan(facts, plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => p.copies.length + 1)).toEqual([72, 72, 72, 71, 71, 71, 71])
  })
})

describe('a later export of a scene', () => {
  const boxes = (names: [string, number][]): SceneFixtureNode[] =>
    names.map(([name, side], i) => ({ name, at: [i * 5, 0, 0], box: [side, 1, 1] }))
  const parts = async (nodes: SceneFixtureNode[], p = plan()) =>
    partsByPlan(await factsOf(nodes), p, 'shed', defaultRulebook).parts

  it('tells new, gone and renamed parts; what was renamed keeps its name and what the plan says of it', async () => {
    const p = plan({ names: { oak_chest: 'sea_chest' }, left: ['old_net'] })
    const before = await parts(
      boxes([
        ['oak_chest', 1],
        ['old_net', 2],
        ['tin_can', 3],
      ]),
      p,
    )
    const now = await parts(
      boxes([
        ['oak_chest', 1],
        ['torn_net', 2],
        ['new_mug', 4],
      ]),
      p,
    )
    const told = compareParts(
      before.map((b) => keptPart(b, [])),
      now,
      p,
    )
    expect(told.changes).toEqual({
      fresh: ['new_mug'],
      gone: ['tin_can'],
      renamed: [{ from: 'old_net', to: 'torn_net', name: 'old_net' }],
    })
    expect(told.plan.left).toEqual(['torn_net'])
    expect(told.plan.names).toEqual({ oak_chest: 'sea_chest', torn_net: 'old_net' })
  })
  it('two that fit the same new part are told as gone and new', async () => {
    const before = await parts(
      boxes([
        ['red_box', 1],
        ['blue_can', 2],
      ]),
      plan({ copies: false }),
    )
    const now = await parts(
      boxes([
        ['blue_can', 2],
        ['green_box', 1],
        ['grey_box', 1],
      ]),
      plan({ copies: false }),
    )
    const told = compareParts(
      [...before, { ...before[0]!, key: 'second_box', name: 'second_box' }].map((b) => keptPart(b, [])),
      now,
      plan(),
    )
    expect(told.changes.renamed).toEqual([])
    expect(told.changes.gone).toEqual(['red_box', 'second_box'])
  })
})
