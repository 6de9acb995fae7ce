import { beforeAll, describe, expect, it } from 'vitest'
import type { Pairing, PairingProblem } from '@stern-gate/contract'
import { defaultRulebook, pairDelivery, pairingProblem } from '@stern-gate/core'
import { subjectsOf } from '@stern-gate/core/fixtures'
import { makeDeliveries, type DemoDelivery } from './index'

let deliveries: DemoDelivery[]
beforeAll(async () => {
  deliveries = await makeDeliveries()
}, 180_000)

async function problemOf(files: DemoDelivery['files']): Promise<PairingProblem> {
  const subjects = await subjectsOf(Object.fromEntries(files.map((f) => [f.path, f.bytes])))
  return pairingProblem(subjects.map((subject) => ({ id: null, subject })))
}

const fileOf = (id: string | null): string => (id ?? '–').replace(/^.*\//, '').replace('.png', '')

describe('wiring that is taken out of the wired models of the demo', () => {
  it('is found again, all of it that has files of its own', async () => {
    const problem = await problemOf(deliveries.slice(0, 2).flatMap((d) => d.files))
    const wired = problem.slots.flatMap((s) =>
      s.wired.flatMap((w) => (w.id === null ? [] : [{ slot: s.id, name: s.slot, input: w.input, id: w.id }])),
    )
    expect(wired.length).toBeGreaterThan(40)
    const { cells } = pairDelivery(
      { slots: problem.slots.map((s) => ({ ...s, wired: [] })), textures: problem.textures },
      defaultRulebook,
    )
    const missed = wired.filter(
      (w) => cells.find((c) => c.slot === w.slot && c.input === w.input)?.texture !== w.id,
    )
    expect(missed.map((m) => `${m.name} ${m.input} ${fileOf(m.id)}`).sort()).toEqual([
      // One packed map for three slots that variants exchange, and another slot whose name it has a word of
      'awning-dry orm harbour_awning_canvas_orm',
      // The number lies on the planks, and is wired to their maps; it has a set of its own by its name
      'berth-number normal harbour_berth_planks_normal',
      'berth-number orm harbour_berth_planks_orm',
      // Faults that are planted: gloss and roughness alone in the packed input
      'crabpot-cage orm harbour_crabpot_cage_roughness',
      'navbuoy-paint orm harbour_navbuoy_a_gloss',
      // Three weathers of one stone; which of them is meant no name says
      'quaystone-side basecolor harbour_quaystone_dry_basecolor',
      'quaystone-top basecolor harbour_quaystone_dry_basecolor',
    ])
  }, 120_000)
})

describe('the delivery from a workshop ashore', () => {
  let pairing: Pairing, problem: PairingProblem
  beforeAll(async () => {
    problem = await problemOf(deliveries[3]!.files)
    pairing = pairDelivery(problem, defaultRulebook)
  }, 120_000)
  const cellOf = (slot: string, input: string) => {
    const { id } = problem.slots.find((s) => s.slot === slot)!
    return pairing.cells.find((c) => c.slot === id && c.input === input)
  }

  it('has twelve bare slots, and each finds what is its own', () => {
    expect(problem.slots.map((s) => s.wired.length)).toEqual(Array.from({ length: 12 }, () => 0))
    const found = (slot: string) =>
      Object.fromEntries(
        pairing.cells
          .filter((c) => c.slot === problem.slots.find((s) => s.slot === slot)!.id && c.texture !== null)
          .map((c) => [c.input, fileOf(c.texture)]),
      )
    expect(found('capstan-oak')).toEqual({
      basecolor: 'capstan_wood_col',
      normal: 'capstan_oak_n',
      orm: 'capstan_oak_orm',
    })
    expect(found('winch-paint')).toEqual({
      basecolor: 'winch-red-colour',
      normal: 'winch body nrm',
      roughness: 'winch body rough',
      metallic: 'winch body metal',
      occlusion: 'winch body ao',
    })
    expect(found('kelp-blade')).toEqual({
      basecolor: 'kelp_diffuse',
      normal: 'kelp_nrm',
      orm: 'kelp_packed',
      opacity: 'kelp_alpha',
    })
    expect(found('quay-stone')['normal']).toBe('quaystone_nm')
  })

  it('leaves to a person what names do not say, and what belongs to nothing', () => {
    // Two slots of one mesh, one set that is called by the mesh
    expect(cellOf('crate-band', 'basecolor')!.confidence).toBeLessThan(0.9)
    const tray = pairing.tray.map((t) => fileOf(t.texture))
    expect(tray).toContain('ref_photo_014')
    expect(tray).toContain('quaystone_wet_bc')
  })
})
