import { beforeAll, describe, expect, it } from 'vitest'
import type { Recipe, RecipeStep } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { pixelsOf, pngOf, rollingNormal } from '../fixtures/pngFixture'
import { decisionsOfRecipe, pairingProblem, slotAfterSteps, slotId, type PairedAsset } from './pairingProblem'
import { fedTextures, planFeeding, withFeeding, type AcceptedCell } from './planFeeding'

let crate: PairedAsset, all: PairedAsset[]
beforeAll(async () => {
  const colour = (seed: number) =>
    pngOf(pixelsOf(32, 32, 3, (x, y) => [90 + ((x * seed) % 60), 80 + (y % 30), 60]))
  const [mesh] = await subjectsOf({
    ...(await crateFiles({ inputs: [], hull: false, faceSlots: ['crate-pine', 'crate-iron'] })),
    'props/textures/harbour_crate_a_albedo.png': colour(3),
  })
  // What came by another delivery
  const sets = await subjectsOf({
    'outside/wood_albedo.png': colour(5),
    'outside/wood_normal.png': pngOf(rollingNormal(32, 'up')),
    'outside/harbour_crate_a_albedo.png': colour(7),
  })
  crate = { id: 'crate', subject: mesh! }
  all = [crate, ...sets.map((subject) => ({ id: subject.name, subject }))]
})

const step = (remedy: string, options: RecipeStep['options'], on = true): RecipeStep => ({
  id: remedy,
  remedy,
  options,
  on,
  why: '',
})
const cellOf = (
  slot: string,
  input: AcceptedCell['input'],
  texture: string | null,
  more: Partial<AcceptedCell> = {},
) => ({
  slot: slotId(crate, slot),
  input,
  texture,
  preset: null,
  layout: null,
  inverted: false,
  ...more,
})

describe('the problem', () => {
  it('has the slots that draw something, what the class asks of them, and loose textures with what they look like', () => {
    const { slots, textures } = pairingProblem(all)
    expect(slots.map((s) => [s.slot, s.wants, s.wired.length])).toEqual([
      ['crate-pine', ['basecolor', 'normal'], 0],
      ['crate-iron', ['basecolor', 'normal'], 0],
    ])
    expect(slots.reduce((sum, s) => sum + s.share, 0)).toBeCloseTo(1)
    const normal = textures.find((t) => t.path === 'outside/wood_normal.png')!
    expect([normal.width, normal.content[0]!.role]).toEqual([32, 'normal'])
  })
  it('asks nothing of a slot that has a surface of values, or that light goes through', () => {
    const given = structuredClone(crate.subject.mesh!.slots!)
    given[0]!.surface = 'bare copper'
    given[1]!.extensions = ['KHR_materials_transmission']
    const bare = { ...crate, subject: { ...crate.subject, mesh: { ...crate.subject.mesh!, slots: given } } }
    expect(pairingProblem([bare]).slots.map((s) => s.wants)).toEqual([[], []])
  })
})

describe('what accepted cells come to', () => {
  it('is one step a slot; textures of others join, by path where their name is taken', () => {
    const textures = pairingProblem(all).textures
    const own = textures.find((t) => t.path.startsWith('props/'))!,
      same = textures.find((t) => t.path === 'outside/harbour_crate_a_albedo.png')!,
      normal = textures.find((t) => t.path === 'outside/wood_normal.png')!
    const [plan, ...more] = planFeeding(all, textures, [
      cellOf('crate-pine', 'basecolor', own.id),
      cellOf('crate-pine', 'normal', normal.id),
      cellOf('crate-iron', 'basecolor', same.id),
    ])
    expect(more).toEqual([])
    expect(plan!.steps).toEqual([
      {
        remedy: 'slots/feed',
        options: { slot: 'crate-pine', basecolor: 'harbour_crate_a_albedo.png', normal: 'wood_normal.png' },
      },
      {
        remedy: 'slots/feed',
        options: { slot: 'crate-iron', basecolor: same.path },
      },
    ])
    expect(plan!.join.map((j) => [j.path, j.name])).toEqual([
      ['outside/wood_normal.png', 'wood_normal.png'],
      [same.path, same.path],
    ])
  })
  it('takes a free path where the mesh has other bytes under that path, and its own texture where they are the same', () => {
    const { textures } = pairingProblem(all)
    const own = textures.find((t) => t.path.startsWith('props/'))!
    const given = [
      { ...own, id: 'set › a', owner: 'set', sha256: 'others' },
      { ...own, id: 'set › b', owner: 'set' },
    ]
    const [plan] = planFeeding(all, given, [
      cellOf('crate-pine', 'basecolor', 'set › a'),
      cellOf('crate-iron', 'basecolor', 'set › b'),
      cellOf('crate-iron', 'height', 'set › a'),
    ])
    const path = 'props/textures/2/harbour_crate_a_albedo.png'
    expect(plan!.join.map((j) => [j.path, j.name])).toEqual([[path, path]])
    expect(plan!.steps.map((s) => s.options)).toEqual([
      { slot: 'crate-pine', basecolor: path },
      { slot: 'crate-iron', basecolor: 'harbour_crate_a_albedo.png', height: path },
    ])
  })
  it('keeps how a map is read, and takes a surface of values', () => {
    const { textures } = pairingProblem(all)
    const packed = textures.find((t) => t.path === 'outside/wood_albedo.png')!
    const [plan] = planFeeding([crate], textures, [
      cellOf('crate-pine', 'orm', packed.id, { layout: 'rma' }),
      cellOf('crate-pine', 'roughness', packed.id, { inverted: true }),
      cellOf('crate-iron', 'basecolor', null, { preset: 'iron' }),
    ])
    expect(plan!.steps[0]!.options).toMatchObject({ layout: 'rma', gloss: true })
    expect(plan!.steps[1]).toEqual({
      remedy: 'slots/surface',
      options: { slot: 'crate-iron', preset: 'iron' },
    })
  })
  it('speaks of a slot by the name that it has once the recipe is done', () => {
    const recipe: Recipe = {
      steps: [
        step('names/rename', { what: 'slot', from: 'crate-pine', to: 'crate-oak' }),
        step('names/rename', { what: 'slot', from: 'crate-oak', to: 'never' }, false),
      ],
    }
    expect(slotAfterSteps(recipe, 'crate-pine')).toBe('crate-oak')
    const { textures } = pairingProblem(all)
    const [plan] = planFeeding([{ ...crate, recipe }], textures, [
      cellOf('crate-pine', 'basecolor', textures[0]!.id),
    ])
    expect(plan!.steps[0]!.options['slot']).toBe('crate-oak')
  })
})

describe('a recipe with what was decided', () => {
  it('has one step a slot and remedy: what is given later goes before, the rest stays', () => {
    const first = withFeeding({ steps: [step('mesh/weld', {})] }, [
      { id: '1', remedy: 'slots/feed', options: { slot: 'a', basecolor: 'x.png', normal: 'n.png' } },
    ])
    const second = withFeeding(first, [
      { id: '2', remedy: 'slots/feed', options: { slot: 'a', basecolor: 'y.png' } },
      { id: '3', remedy: 'slots/surface', options: { slot: 'a', preset: 'iron' } },
    ])
    expect(second.steps.map((s) => [s.remedy, s.options])).toEqual([
      ['mesh/weld', {}],
      ['slots/feed', { slot: 'a', basecolor: 'y.png', normal: 'n.png' }],
      ['slots/surface', { slot: 'a', preset: 'iron' }],
    ])
    expect(fedTextures(second)).toEqual(['y.png', 'n.png'])
  })
  it('forgets how an earlier map was read, and single maps that a packed one replaces', () => {
    const feed = (id: string, options: RecipeStep['options']) => ({ id, remedy: 'slots/feed', options })
    const { textures } = pairingProblem(all)
    const [plan] = planFeeding(all, textures, [
      cellOf('crate-pine', 'orm', textures[0]!.id),
      cellOf('crate-iron', 'roughness', textures[0]!.id),
    ])
    const [pine, iron] = plan!.steps.map((s) => s.options)
    const before: RecipeStep['options'][] = [
      { slot: 'crate-pine', orm: 'a_rma.png', layout: 'rma', roughness: 'r.png' },
      { slot: 'crate-iron', roughness: 'gloss.png', gloss: true, metallic: 'm.png' },
    ]
    const { steps } = withFeeding(
      withFeeding(
        { steps: [] },
        before.map((o) => feed('1', o)),
      ),
      [feed('2', pine!), feed('3', iron!)],
    )
    expect(steps[0]!.options).toMatchObject({ layout: 'orm', roughness: null })
    expect(steps[1]!.options).toMatchObject({ gloss: false, metallic: 'm.png' })
  })
  it('tells what it decided by the slots of the source, as far as its textures are there', () => {
    const recipe: Recipe = {
      steps: [
        step('names/rename', { what: 'slot', from: 'crate-pine', to: 'crate-oak' }),
        step('slots/feed', {
          slot: 'crate-oak',
          basecolor: 'harbour_crate_a_albedo.png',
          normal: 'gone.png',
        }),
        step('slots/surface', { slot: 'crate-iron', preset: 'iron' }),
        step('slots/feed', { slot: 'crate-iron', basecolor: 'harbour_crate_a_albedo.png' }, false),
      ],
    }
    const found = decisionsOfRecipe({ ...crate, recipe })
    expect(
      found.map((d) => [d.slot, d.input, d.texture?.split('/').at(-1) ?? null, d.preset ?? null]),
    ).toEqual([
      [slotId(crate, 'crate-pine'), 'basecolor', 'harbour_crate_a_albedo.png', null],
      [slotId(crate, 'crate-iron'), 'basecolor', null, 'iron'],
    ])
  })
})
