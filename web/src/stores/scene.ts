import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  scenePlanSchema,
  type ApartWay,
  type SceneDetail,
  type ScenePart,
  type ScenePlan,
} from '@stern-gate/contract'
import { firstWay, partsByPlan, proposeWays } from '@stern-gate/core/apart'
import { drawParts, getScene, takeApart } from '../api/client'
import { useFaults } from './faults'

/** A scene of many objects: how it would be taken apart, and what is changed of that before it is. */
export const useScene = defineStore('scene', () => {
  const faults = useFaults()
  const detail = shallowRef<SceneDetail | null>(null)
  const plan = shallowRef<ScenePlan>(scenePlanSchema.parse({}))
  const chosen = ref<ReadonlySet<string>>(new Set())
  const focused = ref<string | null>(null)
  const busy = ref(false)
  const past = shallowRef<readonly ScenePlan[]>([])
  /** One picture with all parts, and the parts in the order in which they stand in it. */
  const pictures = shallowRef<{ address: string; keys: readonly string[] } | null>(null)
  let asked = 0,
    drawing: AbortController | null = null

  const figures = computed(() => ({ figures: detail.value?.figures ?? [] }))
  const ways = computed(() =>
    detail.value ? proposeWays(detail.value.nodes, detail.value.name, figures.value) : [],
  )
  const proposal = computed(() =>
    detail.value ? partsByPlan(detail.value.nodes, plan.value, detail.value.name, figures.value) : null,
  )
  const parts = computed<readonly ScenePart[]>(() => proposal.value?.parts ?? [])
  /** Parts whose lines are chosen, else the one that has the focus. */
  const meant = computed(() => {
    const some = parts.value.filter((p) => chosen.value.has(p.key))
    return some.length > 0 ? some : parts.value.filter((p) => p.key === focused.value)
  })

  async function load(id: string): Promise<void> {
    const mine = ++asked
    const answer = await getScene(id).catch((error: unknown) => {
      faults.put(error)
      return null
    })
    if (mine !== asked || !answer) return
    detail.value = answer
    past.value = []
    chosen.value = new Set()
    focused.value = null
    // What was never taken apart begins with the way that makes several things of it
    plan.value =
      answer.plan.way === 'whole' && answer.parts.length === 0
        ? scenePlanSchema.parse({ way: firstWay(ways.value) })
        : answer.plan
    void draw()
  }
  async function draw(): Promise<void> {
    drawing?.abort()
    const mine = (drawing = new AbortController())
    const of = detail.value,
      keys = parts.value.map((p) => p.key)
    if (!of || keys.length === 0) return
    try {
      const blob = await drawParts(of.id, plan.value, mine.signal)
      if (mine.signal.aborted) return
      if (pictures.value) URL.revokeObjectURL(pictures.value.address)
      pictures.value = { address: URL.createObjectURL(blob), keys }
    } catch (error) {
      // Without pictures the names are still there
      if ((error as Error).name !== 'AbortError') faults.put(error)
    }
  }
  function change(next: Partial<ScenePlan>): void {
    past.value = [...past.value, plan.value]
    plan.value = scenePlanSchema.parse({ ...plan.value, ...next })
    const keys = new Set(parts.value.map((p) => p.key))
    chosen.value = new Set([...chosen.value].filter((k) => keys.has(k)))
    if (focused.value !== null && !keys.has(focused.value)) focused.value = null
    void draw()
  }
  /** Another way begins anew: what was joined and split belonged to the old one. */
  const chooseWay = (way: ApartWay): void =>
    change({ ...scenePlanSchema.parse({ way }), pivot: plan.value.pivot, copies: plan.value.copies })
  const undo = (): void => {
    const last = past.value.at(-1)
    if (!last) return
    past.value = past.value.slice(0, -1)
    plan.value = last
    void draw()
  }
  const keysOf = (part: ScenePart): string[] => [part.key, ...part.copies.map((c) => c.key)]
  function join(): void {
    const some = meant.value
    if (some.length < 2) return
    const keys = some.flatMap(keysOf)
    change({ joined: [...plan.value.joined.filter((j) => !j.some((k) => keys.includes(k))), keys] })
    chosen.value = new Set()
    focused.value = some[0]!.key
  }
  function split(): void {
    const keys = meant.value.filter((p) => p.nodes.length > 1).flatMap(keysOf)
    if (keys.length === 0) return
    const joined = plan.value.joined.filter((j) => !j.some((k) => keys.includes(k)))
    // What was joined by hand comes apart first
    if (joined.length < plan.value.joined.length) change({ joined })
    else change({ split: [...new Set([...plan.value.split, ...keys])] })
  }
  function leaveOut(): void {
    if (meant.value.length === 0) return
    const out = meant.value.some((p) => p.left === null)
    const keys = meant.value.map((p) => p.key)
    change({
      left: out
        ? [...new Set([...plan.value.left, ...keys])]
        : plan.value.left.filter((k) => !keys.includes(k)),
      kept: out
        ? plan.value.kept.filter((k) => !keys.includes(k))
        : [...new Set([...plan.value.kept, ...keys])],
    })
    chosen.value = new Set()
  }
  function rename(key: string, name: string): void {
    const { [key]: _, ...others } = plan.value.names
    change({ names: name.trim() === '' ? others : { ...others, [key]: name.trim() } })
  }
  const toggle = (key: string): void => {
    const next = new Set(chosen.value)
    if (!next.delete(key)) next.add(key)
    chosen.value = next
  }
  /** Has it taken apart; true when it is under way. Throws CallFailed. */
  async function send(meets: boolean): Promise<void> {
    busy.value = true
    try {
      await takeApart(detail.value!.id, { plan: plan.value, revision: detail.value!.revision, meets })
    } finally {
      busy.value = false
    }
  }
  function leave(): void {
    asked++
    drawing?.abort()
    if (pictures.value) URL.revokeObjectURL(pictures.value.address)
    pictures.value = null
    detail.value = null
  }
  return {
    detail,
    plan,
    ways,
    proposal,
    parts,
    chosen,
    focused,
    meant,
    pictures,
    busy,
    past,
    load,
    change,
    chooseWay,
    undo,
    join,
    split,
    leaveOut,
    rename,
    toggle,
    send,
    leave,
  }
})
