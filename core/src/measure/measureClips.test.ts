import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { measureClips } from './measureClips'

type Path = 'translation' | 'rotation' | 'scale'

function clipOf(tracks: { path: Path; times: number[]; values: number[]; cubic?: boolean }[]): Document {
  const document = new Document(),
    buffer = document.createBuffer(),
    clip = document.createAnimation('gate@open')
  const node = document.createNode('gate')
  for (const { path, times, values, cubic } of tracks) {
    const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', list: number[]) =>
      document.createAccessor().setType(type).setArray(new Float32Array(list)).setBuffer(buffer)
    const sampler = document
      .createAnimationSampler()
      .setInput(accessor('SCALAR', times))
      .setOutput(accessor(path === 'rotation' ? 'VEC4' : 'VEC3', values))
      .setInterpolation(cubic ? 'CUBICSPLINE' : 'LINEAR')
    clip
      .addSampler(sampler)
      .addChannel(
        document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler),
      )
  }
  return document
}

describe('clips', () => {
  it('a quarter turn and a shift of 5 cm: 90° and 5 cm between the ends', () => {
    const half = Math.SQRT1_2
    const [clip] = measureClips(
      clipOf([
        { path: 'rotation', times: [0, 1, 2], values: [0, 0, 0, 1, 1, 0, 0, 0, 0, half, 0, half] },
        { path: 'translation', times: [0, 1.5], values: [0, 0, 0, 0.03, 0, 0.04] },
      ]),
    )
    expect(clip).toMatchObject({ name: 'gate@open', lengthSeconds: 2, channels: 2, moved: 1, loop: null })
    expect(clip!.difference!.degrees).toBeCloseTo(90, 4)
    expect(clip!.difference!.metres).toBeCloseTo(0.05, 6)
  })
  it('a quaternion and its negative are one pose', () => {
    expect(
      measureClips(clipOf([{ path: 'rotation', times: [0, 1], values: [0, 0, 0, 1, 0, 0, 0, -1] }]))[0]!
        .difference!.degrees,
    ).toBe(0)
  })
  it('of cubic tracks the values count, not their tangents', () => {
    const values = [9, 9, 9, 0, 0, 0, 9, 9, 9, 8, 8, 8, 0.5, 0, 0, 8, 8, 8]
    expect(
      measureClips(clipOf([{ path: 'translation', times: [0, 1], values, cubic: true }]))[0]!.difference!
        .metres,
    ).toBe(0.5)
  })
  it('without values nothing is said of poses', () => {
    const document = new Document()
    document.createAnimation('empty')
    expect(measureClips(document)).toEqual([
      { name: 'empty', lengthSeconds: 0, channels: 0, moved: 0, loop: null, difference: null },
    ])
  })
})
