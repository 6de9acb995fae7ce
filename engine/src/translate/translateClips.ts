import {
  PropertyBinding,
  Quaternion,
  Vector3,
  type AnimationClip,
  type KeyframeTrack,
  type Object3D,
} from 'three'
import type { TranslatedClip } from '@stern-gate/core'
import type { Similarity } from './similarity'

const paths: Record<string, 'translation' | 'rotation' | 'scale'> = {
  position: 'translation',
  quaternion: 'rotation',
  scale: 'scale',
}

/**
 * Clips with their keys in metres and Y up. Tracks of what is no node, or moves something else, are told to
 * `lose`.
 */
export function translateClips(
  clips: readonly AnimationClip[],
  roots: readonly Object3D[],
  change: Similarity,
  indexOf: ReadonlyMap<Object3D, number>,
  lose: (what: string) => void,
): TranslatedClip[] {
  const byName = new Map<string, number>()
  for (const root of roots)
    root.traverse((o) => {
      const index = indexOf.get(o)
      for (const key of [o.name, o.uuid])
        if (key && index !== undefined && !byName.has(key)) byName.set(key, index)
    })
  return clips.flatMap((clip) => {
    const tracks = clip.tracks.flatMap((track) => {
      const { nodeName, propertyName } = PropertyBinding.parseTrackName(track.name)
      const node = byName.get(nodeName),
        path = paths[propertyName]
      if (node === undefined || !path || track.times.length === 0) {
        lose('track of a clip')
        return []
      }
      return [{ node, path, times: Float32Array.from(track.times), values: valuesOf(track, path, change) }]
    })
    return tracks.length > 0 ? [{ name: clip.name, tracks }] : []
  })
}

function valuesOf(
  track: KeyframeTrack,
  path: 'translation' | 'rotation' | 'scale',
  { matrix, turn }: Similarity,
): Float32Array {
  const values = Float32Array.from(track.values),
    back = turn.clone().invert()
  if (path === 'rotation') {
    const q = new Quaternion()
    for (let k = 0; k + 3 < values.length; k += 4)
      q.fromArray(values, k).premultiply(turn).multiply(back).toArray(values, k)
    return values
  }
  const v = new Vector3()
  for (let k = 0; k + 2 < values.length; k += 3) {
    v.fromArray(values, k)
    if (path === 'translation') v.applyMatrix4(matrix)
    else {
      // A quarter turn only exchanges the axes
      v.applyQuaternion(turn)
      v.set(Math.abs(v.x), Math.abs(v.y), Math.abs(v.z))
    }
    v.toArray(values, k)
  }
  return values
}
