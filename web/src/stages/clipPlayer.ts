import { AnimationMixer, SkeletonHelper, type AnimationClip, type Object3D } from 'three'

/** Puts a model into the poses of its clips. */
export interface ClipPlayer {
  /** Puts the model into the pose that a clip has at a time in seconds; null: as it rests. */
  pose: (clip: number | null, seconds: number) => void
  /** Lines from bone to bone; null where the model has none. */
  bones: () => SkeletonHelper | null
  dispose: () => void
}

/** `clips` in the order of the file. */
export function createClipPlayer(root: Object3D, clips: readonly AnimationClip[]): ClipPlayer {
  const mixer = new AnimationMixer(root)
  let now: number | null = null,
    helper: SkeletonHelper | null = null
  return {
    pose(clip, seconds) {
      const chosen = clip === null ? undefined : clips[clip]
      if (clip !== now || !chosen) mixer.stopAllAction()
      now = chosen ? clip : null
      if (!chosen) return
      const action = mixer.clipAction(chosen)
      if (!action.isRunning()) action.reset().play()
      // The last pose, too, is one that can be looked at: a full round would be the first again
      mixer.setTime(Math.min(seconds, Math.max(0, chosen.duration - 1e-4)))
    },
    bones() {
      helper ??= new SkeletonHelper(root)
      return helper.bones.length > 0 ? helper : null
    },
    dispose() {
      mixer.stopAllAction()
      mixer.uncacheRoot(root)
      helper?.dispose()
    },
  }
}
