import type { Animation, AnimationChannel, Document } from '@gltf-transform/core'
import type { ClipFacts } from '@stern-gate/contract'
import { floatsOf } from '../scene/primitiveView'

/** Measures every clip: its length, what it moves, and how far its last pose is from its first. */
export function measureClips(document: Document): ClipFacts[] {
  return document
    .getRoot()
    .listAnimations()
    .map((clip) => {
      const channels = clip.listChannels()
      return {
        name: clip.getName(),
        lengthSeconds: lengthOf(clip),
        channels: channels.length,
        moved: new Set(channels.map((c) => c.getTargetNode())).size,
        loop: loopOf(clip),
        difference: poseDifference(channels),
      }
    })
}

/** The mark that says whether a clip is played over and over, where the file has one. */
export function loopOf(clip: Animation): boolean | null {
  const { loop } = clip.getExtras() as { loop?: unknown }
  return typeof loop === 'boolean' ? loop : null
}

function lengthOf(clip: Animation): number {
  let last = 0
  for (const sampler of clip.listSamplers()) {
    const times = sampler.getInput()?.getArray()
    if (times && times.length > 0) last = Math.max(last, times[times.length - 1]!)
  }
  return Number.isFinite(last) ? last : 0
}

/** The most that any channel's last value differs from its first. Null when no channel has values. */
function poseDifference(channels: readonly AnimationChannel[]): ClipFacts['difference'] {
  const most = { metres: 0, degrees: 0, scale: 0, weight: 0 }
  let any = false
  for (const channel of channels) {
    const ends = endsOf(channel)
    if (!ends) continue
    any = true
    const [first, last] = ends
    const path = channel.getTargetPath()
    if (path === 'translation')
      most.metres = Math.max(most.metres, Math.hypot(...first.map((v, i) => v - last[i]!)))
    else if (path === 'rotation') most.degrees = Math.max(most.degrees, turnBetween(first, last))
    else {
      const key = path === 'scale' ? 'scale' : 'weight'
      most[key] = Math.max(most[key], ...first.map((v, i) => Math.abs(v - last[i]!)))
    }
  }
  return any ? most : null
}

/** Angle between two quaternions in degrees; one and its negative are the same turn. */
function turnBetween(a: readonly number[], b: readonly number[]): number {
  const dot = a.reduce((sum, v, i) => sum + v * b[i]!, 0),
    lengths = Math.hypot(...a) * Math.hypot(...b)
  return lengths > 0 ? (2 * Math.acos(Math.min(1, Math.abs(dot) / lengths)) * 180) / Math.PI : 0
}

/** First and last value of a channel; in cubic tracks the middle of each three is the value. */
function endsOf(channel: AnimationChannel): [number[], number[]] | null {
  const sampler = channel.getSampler(),
    keys = sampler?.getInput()?.getCount() ?? 0,
    output = sampler?.getOutput()
  if (!sampler || !output || keys === 0) return null
  const values = floatsOf(output)
  const perKey = sampler.getInterpolation() === 'CUBICSPLINE' ? 3 : 1
  // Weights have as many numbers a key as the mesh has targets
  const size = Math.floor(values.length / keys / perKey)
  const at = (key: number): number[] =>
    Array.from(values.subarray((key * perKey + (perKey === 3 ? 1 : 0)) * size).subarray(0, size))
  const ends: [number[], number[]] = [at(0), at(keys - 1)]
  return size > 0 && ends.flat().every(Number.isFinite) ? ends : null
}
