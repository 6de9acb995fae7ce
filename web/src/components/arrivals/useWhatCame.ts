import { shallowRef, watch, type ShallowRef } from 'vue'
import type {
  Delivery,
  MendPlan,
  PairingWaiting,
  RulebookReply,
  SceneList,
  SharedFinding,
} from '@stern-gate/contract'
import { getRulebook, getShared, getWaiting, listScenes, planMending } from '../../api/client'

/** What is known of what came; all of it of one moment. */
export interface WhatIsKnown {
  /** The rulebook with what it finds, where a project begins with it. */
  first: RulebookReply | null
  /** The newest delivery, if it is fresh: what its assets have in common, and what is safe to mend in it. */
  newest: { delivery: Delivery; shared: SharedFinding[]; safe: MendPlan | null } | null
  scenes: SceneList
  waiting: PairingWaiting
}
export interface WhatIsAsked {
  project: string | null
  newest: Delivery | null
  asksFirst: boolean
  /** Changes when anything came or was judged. */
  stamp: string
  /** A delivery is under way: what stands there stays until it is through. */
  busy: boolean
}

/** Asks for everything at once and shows it at once, so that nothing moves under the pointer. */
export function useWhatCame(asked: () => WhatIsAsked): ShallowRef<WhatIsKnown | null> {
  const known = shallowRef<WhatIsKnown | null>(null)
  watch(
    () => asked().project,
    () => (known.value = null),
  )
  watch(
    [
      () => asked().project,
      () => asked().newest?.id,
      () => asked().asksFirst,
      () => asked().stamp,
      () => asked().busy,
    ],
    async (_, __, over) => {
      let gone = false
      over(() => (gone = true))
      const { project, busy } = asked()
      if (project === null || busy) return
      const answer = await askAll(project, asked())
      if (!gone) known.value = answer
    },
    { immediate: true },
  )
  return known
}

async function askAll(project: string, { newest, asksFirst }: WhatIsAsked): Promise<WhatIsKnown> {
  const [first, shared, safe, scenes, waiting] = await Promise.all([
    asksFirst ? getRulebook(project).catch(() => null) : null,
    newest ? getShared(newest.id).catch(() => []) : [],
    newest ? planMending(project, { assets: null, delivery: newest.id }).catch(() => null) : null,
    listScenes(project).catch(() => ({ scenes: [], several: [] })),
    getWaiting(project).catch(() => ({ meshes: 0, sets: 0 })),
  ])
  return { first, newest: newest && { delivery: newest, shared, safe }, scenes, waiting }
}
