import { afterEach, describe, expect, it } from 'vitest'
import type { Recipe } from '@stern-gate/contract'
import { findRemedy } from '../remedies/index'
import { resolveSurfaces } from '../surfaces/sharedSurfaces'
import { outputIdentity } from './outputKey'

const files = [
  { path: 'props/crate.glb', part: 'mesh', sha256: 'aa' },
  { path: 'props/crate_normal.png', part: 'texture', sha256: 'bb' },
]
const flip = { id: '1', remedy: 'colour/flip-green', options: { texture: 'n.png' }, on: true, why: 'own' }
const scale = { id: '2', remedy: 'scale/rescale', options: { factor: 0.01 }, on: true, why: 'own' }
const of = (...steps: Recipe['steps']): string => outputIdentity(files, resolveSurfaces({ steps }, {}))

describe('the identity of an output', () => {
  const remedy = findRemedy('colour/flip-green')!,
    version = remedy.version
  afterEach(() => void (remedy.version = version))

  it('is another one for other files, steps, options or order', () => {
    const all = [
      of(flip),
      of(scale),
      of(flip, scale),
      of(scale, flip),
      of({ ...scale, options: { factor: 0.1 } }),
      of({ ...flip, options: { texture: 'other.png' } }),
      outputIdentity([{ ...files[0]!, sha256: 'cc' }, files[1]!], resolveSurfaces({ steps: [flip] }, {})),
      outputIdentity(
        [{ ...files[0]!, path: 'props/box.glb' }, files[1]!],
        resolveSurfaces({ steps: [flip] }, {}),
      ),
    ]
    expect(new Set(all).size).toBe(all.length)
  })
  it('takes what a surface of the project comes to, not its name alone', () => {
    const step = {
      id: '3',
      remedy: 'slots/surface',
      options: { slot: 'hull', shared: 'paint' },
      on: true,
      why: '',
    }
    const with_ = (roughness: number): string =>
      outputIdentity(
        files,
        resolveSurfaces({ steps: [step] }, { paint: { follows: null, preset: null, values: { roughness } } }),
      )
    expect(with_(0.2)).not.toBe(with_(0.3))
    expect(with_(0.2)).toBe(with_(0.2))
  })
  it('looks neither at who asked, nor at ids, nor at the order of options, nor at steps that are off', () => {
    expect(of({ ...flip, id: 'x', why: 'colour/normal-green' })).toBe(of(flip))
    expect(of(flip, { ...scale, on: false })).toBe(of(flip))
    const two = { ...flip, remedy: 'uvs/copy' }
    expect(of({ ...two, options: { from: 0, to: 1 } })).toBe(of({ ...two, options: { to: 1, from: 0 } }))
  })
  it('is another one when a remedy that it uses has another version, and only then', () => {
    const [used, unused] = [of(flip), of(scale)]
    remedy.version = version + 1
    expect(of(flip)).not.toBe(used)
    expect(of(scale)).toBe(unused)
  })
})
