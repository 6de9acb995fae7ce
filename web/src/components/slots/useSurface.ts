import { computed, ref, shallowRef, watch } from 'vue'
import type { Recipe, RecipeStep, RemedyOptions, SlotFacts, SurfaceFile } from '@stern-gate/contract'
import { DETAIL, fileName, SECOND_LAYER, stepsOfSurfaceFile, SURFACE } from '@stern-gate/core/surfaces'
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
  /** The stage draws what the target keeps of the surfaces. */
  const asKept = ref(false)
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
  const tryLayer = (slot: string, layer: RemedyOptions): void =>
    draft(slot, (now) => ({ ...now, layer: { ...now.layer, ...layer } }))
  const tryDetail = (slot: string, detail: RemedyOptions): void =>
    draft(slot, (now) => ({ ...now, detail: { ...now.detail, ...detail } }))
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
        await bench.untilFree()
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
    for (const [slot, { values, places, tint = {}, layer = {}, detail = {} }] of all) {
      if (Object.keys(detail).length > 0) put(DETAIL, { slot }, detail)
      if (Object.keys(layer).length > 0) put(SECOND_LAYER, { slot }, layer)
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
    asKept.value = false
  })
  /** A preset or a surface of the project and nothing else; null: as it arrived. */
  async function choose(slot: string, what: { preset: string } | { shared: string } | null): Promise<void> {
    if (!bench.detail) return
    drafts.value = new Map([...drafts.value].filter(([s]) => s !== slot))
    keeping.value = new Map([...keeping.value].filter(([s]) => s !== slot))
    await bench.untilFree()
    const step = stepsOf(bench.detail.recipe, SURFACE, slot)
    const rest: Recipe = { steps: bench.detail.recipe.steps.filter((s) => s !== step) }
    const options = { slot, ...what }
    if (what === null) await bench.keep(rest)
    else if (step) await bench.keep(withOptions(bench.detail.recipe, step.id, options))
    else await bench.keep(withStep(rest, 'own', { remedy: SURFACE, options }))
  }
  /** Take off the second layer or the detail map of a slot. */
  const dropLayer = (slot: string): Promise<void> =>
    takeOff(slot, 'layer', { remedy: SECOND_LAYER, options: { slot, by: 'none' } })
  const dropDetail = (slot: string): Promise<void> =>
    takeOff(slot, 'detail', { remedy: DETAIL, options: { slot } })
  /** The step that laid it goes; what the file brought is taken off by a step. */
  async function takeOff(
    slot: string,
    what: 'layer' | 'detail',
    off: { remedy: string; options: RemedyOptions },
  ): Promise<void> {
    if (!bench.detail) return
    drafts.value = without(drafts.value, slot, what)
    keeping.value = without(keeping.value, slot, what)
    await bench.untilFree()
    const { recipe, source } = bench.detail
    const isOfFile = source.mesh?.slots?.some((s) => s.name === slot && s[what])
    const rest: Recipe = {
      steps: recipe.steps.filter((s) => s.remedy !== off.remedy || s.options['slot'] !== slot),
    }
    await bench.keep(isOfFile ? withStep(rest, 'own', off) : rest)
  }
  /** Gives a slot what a surface file says, in place of the steps that say so now. */
  async function take(file: SurfaceFile, slot: SlotFacts): Promise<void> {
    if (!bench.detail) return
    await bench.untilFree()
    let next = bench.detail.recipe
    const { textures } = bench.detail.output
    const nameOf = (path: string): string | null =>
      textures.find((t) => fileName(t.name) === fileName(path))?.name ?? null
    for (const { remedy, options } of stepsOfSurfaceFile(file, slot, nameOf)) {
      const input = options['input']
      const step = stepsOf(next, remedy, slot.name, typeof input === 'string' ? input : undefined)
      next = step ? withOptions(next, step.id, options) : withStep(next, 'own', { remedy, options })
    }
    await bench.keep(next)
  }
  const WRITE = 'slots/write-surfaces'
  /** Whether the output has surface files. */
  const writesFiles = (): boolean => !!bench.detail?.recipe.steps.some((s) => s.on && s.remedy === WRITE)
  async function writeFiles(on: boolean): Promise<void> {
    if (!bench.detail) return
    await bench.untilFree()
    const { recipe } = bench.detail
    await bench.keep(
      on
        ? withStep(recipe, 'own', { remedy: WRITE, options: {} })
        : { steps: recipe.steps.filter((s) => s.remedy !== WRITE) },
    )
  }
  const copy = (slot: SlotFacts, values: RemedyOptions): void => {
    copied.value = { from: slot.name, values }
  }
  return {
    tried,
    saving,
    asKept,
    copied,
    saidOf,
    placeSaidOf,
    tintSaidOf,
    tryValues,
    tryTint,
    tryLayer,
    dropLayer,
    tryDetail,
    dropDetail,
    take,
    writesFiles,
    writeFiles,
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
  for (const [slot, { values, places, tint, layer, detail }] of over) {
    const before = all.get(slot) ?? nothing
    const inputs = new Set([...Object.keys(before.places), ...Object.keys(places)])
    all.set(slot, {
      values: { ...before.values, ...values },
      ...(before.tint || tint ? { tint: { ...before.tint, ...tint } } : {}),
      ...(before.layer || layer ? { layer: { ...before.layer, ...layer } } : {}),
      ...(before.detail || detail ? { detail: { ...before.detail, ...detail } } : {}),
      places: Object.fromEntries([...inputs].map((i) => [i, { ...before.places[i], ...places[i] }])),
    })
  }
  return all
}

const without = (all: TriedSurfaces, slot: string, what: 'layer' | 'detail'): TriedSurfaces =>
  new Map([...all].map(([name, surface]) => [name, name === slot ? { ...surface, [what]: {} } : surface]))
