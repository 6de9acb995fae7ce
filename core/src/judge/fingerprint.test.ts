import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import type { Finding, Place } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import type { CrateOptions } from '../fixtures/crateOptions'
import { subjectsOf } from '../fixtures/measureFixture'
import { writeGlb } from '../write/writeGlb'
import { fingerprint } from './fingerprint'
import { judge } from './judge'

const subject = { name: 'harbour_crate_a', path: 'props/harbour_crate_a.glb', mesh: null }
const of = (
  place: Place,
  more: { rule?: string; message?: string; part?: string } = {},
  name = subject.name,
) => fingerprint({ rule: 'mesh/degenerate', message: 'flat', place, ...more }, { ...subject, name })

describe('a fingerprint', () => {
  const place: Place = { kind: 'node', node: 'crate/lid' }
  it('stays what it was: waivers are kept by it', () => {
    expect(of(place)).toBe('29zyonhtxcr')
    expect(of({ kind: 'name', what: 'asset', name: 'x', span: [0, 1] }, { rule: 'names/pattern' })).toBe(
      '0adb551v43c',
    )
  })
  it('of triangles is told by their slot, and by which of several with one slot they are', () => {
    const mesh = {
      nodes: [{ path: 'crate', primitives: ['wood', 'iron', 'wood'].map((slot) => ({ slot })) }],
    } as never
    const at = (primitive: number, node = 'crate'): string =>
      fingerprint(
        {
          rule: 'mesh/degenerate',
          message: 'flat',
          place: { kind: 'triangles', node, primitive, triangles: [0], count: 1 } as never,
        },
        { ...subject, mesh },
      )
    expect(new Set([at(0), at(1), at(2), at(3)]).size).toBe(4)
    // Of a node that is not known it is the number
    expect(at(0, 'other')).not.toBe(at(1, 'other'))
    // The other slot before the second of wood does not count
    const reordered = {
      nodes: [{ path: 'crate', primitives: ['iron', 'wood', 'wood'].map((slot) => ({ slot })) }],
    } as never
    const second = fingerprint(
      {
        rule: 'mesh/degenerate',
        message: 'flat',
        place: { kind: 'triangles', node: 'crate', primitive: 2, triangles: [0], count: 1 } as never,
      },
      { ...subject, mesh: reordered },
    )
    expect(second).toBe(at(2))
  })
  it('is another one for another rule, message, node, channel, slot, texture or part', () => {
    const all = [
      of(place),
      of(place, { rule: 'mesh/normals' }),
      of(place, { message: 'outside' }),
      of(place, { part: 'wood' }),
      of({ kind: 'node', node: 'crate/box' }),
      of({ kind: 'channel', node: 'crate/lid', channel: 0 }),
      of({ kind: 'channel', node: 'crate/lid', channel: 1 }),
      of({ kind: 'slot', slot: 'wood' }),
      of({ kind: 'slot', slot: 'wood', input: 'normal' }),
      of({ kind: 'texture', texture: 'wood' }),
      of({ kind: 'file', file: 'wood' }),
      of({ kind: 'asset' }),
    ]
    expect(new Set(all).size).toBe(all.length)
  })
  it('looks neither at the evidence nor at the span of a name', () => {
    const triangles = (evidence: string): Place => ({ kind: 'triangles', node: 'a', primitive: 0, evidence })
    expect(of(triangles('one'))).toBe(of(triangles('two')))
    const span = (to: number): Place => ({ kind: 'name', what: 'node', name: 'n', span: [0, to] })
    expect(of(span(1))).toBe(of(span(2)))
  })
  it('knows what carries the name of the asset by what comes behind it', () => {
    const texture = (name: string): Place => ({ kind: 'texture', texture: `${name}_normal.png` })
    expect(of(texture('harbour_crate_a'))).toBe(of(texture('harbour_box'), {}, 'harbour_box'))
    expect(of(texture('harbour_crate_a'))).not.toBe(of(texture('harbour_box')))
  })
})

async function findings(options: CrateOptions): Promise<Finding[]> {
  const [first] = await subjectsOf(await crateFiles(options))
  return judge(first!).findings
}
const byRule = (all: readonly Finding[]): Record<string, string[]> => {
  const out: Record<string, string[]> = {}
  for (const f of all) (out[f.rule] ??= []).push(f.fingerprint)
  return out
}

describe('findings of one asset', () => {
  const broken: CrateOptions = { green: 'down', size: 100, hull: false, slotName: 'Box Wood' }
  it('keep their fingerprints when the asset is renamed', async () => {
    const before = byRule(
        await findings({ ...broken, name: 'harbour_crate_a', textureName: 'harbour_crate_a' }),
      ),
      after = byRule(await findings({ ...broken, name: 'harbour_keg_b', textureName: 'harbour_keg_b' }))
    expect(Object.keys(before).length).toBeGreaterThan(3)
    expect(after).toEqual(before)
  })
  it('keep them when the measured value is another', async () => {
    const off = async (size: number) => byRule(await findings({ ...broken, size }))['scale/expected-size']
    expect(await off(100)).toHaveLength(1)
    expect(await off(102)).toEqual(await off(100))
  })
  it('keep them when the nodes of the file come in another order', async () => {
    const names = ['lid', 'chest', 'hinges']
    const one = byRule(await findingsOfNodes(names)),
      other = byRule(await findingsOfNodes([...names].reverse()))
    expect(one['mesh/normals']).toHaveLength(3)
    for (const rule in one) expect(new Set(other[rule])).toEqual(new Set(one[rule]))
  })
  it('of two slots of one node are told apart', async () => {
    const all = (await findingsOfNodes(['box'], ['wood', 'iron'])).filter((f) => f.rule === 'mesh/normals')
    expect(all).toHaveLength(2)
    expect(new Set(all.map((f) => f.fingerprint)).size).toBe(2)
    for (const { fingerprint: own } of all) expect(own).toMatch(/^[0-9a-z]{11}$/)
  })
})

/** Boxes without normals, of different sizes so that none is like another, with a primitive for each slot. */
async function findingsOfNodes(names: string[], slots = ['wood']): Promise<Finding[]> {
  const document = new Document(),
    buffer = document.createBuffer(),
    scene = document.createScene()
  const materials = slots.map((slot) => document.createMaterial(slot))
  for (const name of names) {
    const mesh = document.createMesh(name)
    for (const [i, material] of materials.entries()) {
      const size = name.length + i
      const points = [0, 0, 0, size, 0, 0, 0, size, 0, 0, 0, size]
      mesh.addPrimitive(
        document
          .createPrimitive()
          .setMaterial(material)
          .setAttribute(
            'POSITION',
            document.createAccessor().setType('VEC3').setArray(new Float32Array(points)).setBuffer(buffer),
          )
          .setIndices(
            document
              .createAccessor()
              .setArray(new Uint16Array([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]))
              .setBuffer(buffer),
          ),
      )
    }
    scene.addChild(document.createNode(name).setMesh(mesh))
  }
  const [own] = await subjectsOf({
    'props/harbour_box_a.glb': await writeGlb(document, () => ({ embed: new Uint8Array(0) })),
  })
  return judge(own!).findings
}
