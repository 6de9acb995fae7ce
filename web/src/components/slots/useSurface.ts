import { computed, ref, shallowRef, watch } from 'vue'
import type { Recipe, RecipeStep, RemedyOptions, SlotFacts } from '@stern-gate/contract'
import { SURFACE } from '@stern-gate/core/surfaces'
import type { TriedSurface, TriedSurfaces } from '../../stages/wornSurface'
import { useBench, withOptions, withStep } from '../../stores/bench'

const PLACE = 'slots/place-texture',
  TINT = 'slots/tint'

type Tried = Map<string, TriedSurface>
const nothing: TriedSurface = { values: {}, places: {} }

/** Values that were copied from a slot, for any other, of any asset. */
const copied = shallowRef<{ from: string; values: RemedyOptions } | null>(null)

/**
 * The surfaces of the asset on the bench while they are being set: what is dragged shows at once, and is kept as a
 * step when it is let go.
 */
export function useSurface() {
  const bench = useBench()
  /** Not kept yet, and kept but not on the stage yet. */
  const drafts = shallowRef<TriedSurfaces>(new Map()),
    keeping = shallowRef<TriedSurfaces>(new Map())
  const saving = ref(false)
  /** Something was let go since the last was kept; what is still being dragged waits. */
  let more = false
  const tried = computed<TriedSurfaces>(() => joined(keeping.value, drafts.value))

  const stepsOf = (recipe: Recipe, remedy: string, slot: string, input?: string): RecipeStep | undefined =>
    recipe.steps.findLast(
      (s) =>
        s.on && s.remedy === remedy && s.options['slot'] === slot && (!input || s.options['input'] === input),
    )
  /** What the recipe says of a slot's values; empty where nothing. */
  const saidOf = (slot: string): RemedyOptions =>
    bench.detail ? (stepsOf(bench.detail.recipe, SURFACE, slot)?.options ?? {}) : {}
  const tintSaidOf = (slot: string): RemedyOptions =>
    bench.detail ? (stepsOf(bench.detail.recipe, TINT, slot)?.options ?? {}) : {}
  const placeSaidOf = (slot: string, input: string): RemedyOptions =>
    bench.detail ? (stepsOf(bench.detail.recipe, PLACE, slot, input)?.options ?? {}) : {}

  function draft(slot: string, change: (now: TriedSurface) => TriedSurface): void {
    drafts.value = new Map(drafts.value).set(slot, change(drafts.value.get(slot) ?? nothing))
  }
  const tryValues = (slot: string, values: RemedyOptions): void =>
    draft(slot, (now) => ({ ...now, values: { ...now.values, ...values } }))
  const tryTint = (slot: string, tint: RemedyOptions): void =>
    draft(slot, (now) => ({ ...now, tint: { ...now.tint, ...tint } }))
  const tryPlace = (slot: string, input: string, values: RemedyOptions): void =>
    draft(slot, (now) => ({
      ...now,
      places: { ...now.places, [input]: { ...now.places[input], ...values } },
    }))

  /** Keeps what is tried, as steps; what is tried meanwhile follows. */
  async function keep(): Promise<void> {
    more = true
    if (saving.value) return
    saving.value = true
    try {
      while (more && bench.detail) {
        await untilFree()
        more = false
        const now = drafts.value
        drafts.value = new Map()
        keeping.value = joined(keeping.value, now)
        await bench.keep(withTried(bench.detail.recipe, now))
      }
    } finally {
      saving.value = false
    }
  }
  const untilFree = (): Promise<void> =>
    new Promise((resolve) => {
      if (!bench.busy) return resolve()
      const stop = watch(
        () => bench.busy,
        (busy) => {
          if (busy) return
          stop()
          resolve()
        },
      )
    })
  function withTried(recipe: Recipe, all: TriedSurfaces): Recipe {
    let next = recipe
    const put = (remedy: string, of: RemedyOptions, values: RemedyOptions): void => {
      const slot = String(of['slot'])
      const step = stepsOf(next, remedy, slot, of['input'] === undefined ? undefined : String(of['input']))
      const options = { ...of, ...step?.options, ...values }
      const says = Object.entries(options).some(([key, v]) => !(key in of) && v !== null)
      if (!says && step) next = { steps: next.steps.filter((s) => s !== step) }
      else if (says)
        next = step ? withOptions(next, step.id, options) : withStep(next, 'own', { remedy, options })
    }
    for (const [slot, { values, places, tint = {} }] of all) {
      if (Object.keys(tint).length > 0) put(TINT, { slot }, tint)
      if (Object.keys(values).length > 0) put(SURFACE, { slot }, values)
      for (const [input, place] of Object.entries(places)) put(PLACE, { slot, input }, place)
    }
    return next
  }
  /** A model came onto the stage: what was kept is in it, once nothing is being made any more. */
  function drawn(model: string): void {
    if (!saving.value && bench.detail && !bench.detail.making && bench.detail.output.model === model)
      keeping.value = new Map()
  }
  watch([() => bench.detail?.id, () => bench.side], () => {
    drafts.value = new Map()
    keeping.value = new Map()
  })
  /** A preset or a surface of the project and nothing else; null: as it arrived. */
  async function choose(slot: string, what: { preset: string } | { shared: string } | null): Promise<void> {
    if (!bench.detail) return
    drafts.value = new Map([...drafts.value].filter(([s]) => s !== slot))
    keeping.value = new Map([...keeping.value].filter(([s]) => s !== slot))
    await untilFree()
    const step = stepsOf(bench.detail.recipe, SURFACE, slot)
    const rest: Recipe = { steps: bench.detail.recipe.steps.filter((s) => s !== step) }
    const options = { slot, ...what }
    if (what === null) await bench.keep(rest)
    else if (step) await bench.keep(withOptions(bench.detail.recipe, step.id, options))
    else await bench.keep(withStep(rest, 'own', { remedy: SURFACE, options }))
  }
  const copy = (slot: SlotFacts, values: RemedyOptions): void => {
    copied.value = { from: slot.name, values }
  }
  return {
    tried,
    saving,
    copied,
    saidOf,
    placeSaidOf,
    tintSaidOf,
    tryValues,
    tryTint,
    tryPlace,
    keep,
    drawn,
    choose,
    copy,
  }
}
export type Surfaces = ReturnType<typeof useSurface>

function joined(under: TriedSurfaces, over: TriedSurfaces): TriedSurfaces {
  const all: Tried = new Map(under)
  for (const [slot, { values, places, tint }] of over) {
    const before = all.get(slot) ?? nothing
    const inputs = new Set([...Object.keys(before.places), ...Object.keys(places)])
    all.set(slot, {
      values: { ...before.values, ...values },
      ...(before.tint || tint ? { tint: { ...before.tint, ...tint } } : {}),
      places: Object.fromEntries([...inputs].map((i) => [i, { ...before.places[i], ...places[i] }])),
    })
  }
  return all
}
