import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  optionsOfOffer,
  type WholeDetail,
  type AssetState,
  type Preview,
  type Recipe,
  type RemedyOffer,
  type RemedyOptions,
} from '@stern-gate/contract'
import { getAsset, previewRecipe, saveChoice, saveRecipe, undoRecipe } from '../api/client'
import { useFaults } from './faults'

const PREVIEW_DELAY_MS = 140

/**
 * One asset on the bench: what arrived, its recipe, what comes out, and a preview while a remedy is pointed
 * at.
 */
export const useBench = defineStore('bench', () => {
  const faults = useFaults()
  const detail = shallowRef<WholeDetail | null>(null)
  const preview = shallowRef<Preview | null>(null)
  const previewing = ref(false)
  const busy = ref(false)
  const side = ref<'source' | 'output'>('output')
  let asking: AbortController | null = null,
    delay: ReturnType<typeof setTimeout> | null = null

  /** What the stage shows: the preview, or the chosen side. */
  const shown = computed<AssetState | null>(
    () => preview.value?.state ?? (detail.value ? detail.value[side.value] : null),
  )
  /** What findings and verdict speak of. */
  const judged = computed<AssetState | null>(() => (detail.value ? detail.value[side.value] : null))

  const load = async (id: string, version: number | null): Promise<void> => {
    try {
      const loaded = await getAsset(id, version)
      detail.value = loaded
    } catch (error) {
      faults.put(error)
    }
  }
  const close = (): void => {
    endPreview()
    detail.value = null
    side.value = 'output'
  }
  /** Changes the asset; false where something else is being kept, or where it was refused, which is said. */
  const change = async (work: (now: WholeDetail) => Promise<WholeDetail>): Promise<boolean> => {
    if (!detail.value || busy.value) return false
    busy.value = true
    endPreview()
    try {
      detail.value = await work(detail.value)
      side.value = 'output'
      return true
    } catch (error) {
      faults.put(error)
      await load(detail.value.id, null)
      return false
    } finally {
      busy.value = false
    }
  }
  const keep = (recipe: Recipe): Promise<boolean> =>
    change((now) => saveRecipe(now.id, now.recipeRevision, recipe))
  /** Resolves when nothing is being kept. */
  const untilFree = (): Promise<void> =>
    new Promise((resolve) => {
      if (!busy.value) return resolve()
      const stop = watch(busy, (isBusy) => {
        if (isBusy) return
        stop()
        resolve()
      })
    })
  /** Adds a step for each offer, as one change. */
  const apply = (rule: string, offers: readonly RemedyOffer[]): Promise<boolean> =>
    detail.value ? keep(withSteps(detail.value.recipe, rule, offers)) : Promise.resolve(false)
  const undo = (): Promise<boolean> => change((now) => undoRecipe(now.id, now.recipeRevision))
  const choose = (choice: { class?: string; target?: string }): Promise<boolean> =>
    change((now) => saveChoice(now.id, choice))

  const startPreview = (rule: string, offers: readonly RemedyOffer[]): void => {
    if (detail.value) showRecipe(withSteps(detail.value.recipe, rule, offers))
  }
  /** Shows what a recipe would make, after a moment. */
  const showRecipe = (recipe: Recipe): void => {
    endPreview()
    const now = detail.value
    if (!now || busy.value) return
    const own = new AbortController()
    asking = own
    delay = setTimeout(() => {
      previewing.value = true
      previewRecipe(now.id, recipe, own.signal)
        .then((result) => {
          if (asking === own) preview.value = result
        })
        .catch(faults.put)
        .finally(() => {
          if (asking === own) previewing.value = false
        })
    }, PREVIEW_DELAY_MS)
  }
  const endPreview = (): void => {
    if (delay !== null) clearTimeout(delay)
    asking?.abort()
    asking = null
    preview.value = null
    previewing.value = false
  }
  return {
    detail,
    preview,
    previewing,
    busy,
    side,
    shown,
    judged,
    load,
    close,
    keep,
    untilFree,
    apply,
    undo,
    choose,
    startPreview,
    showRecipe,
    endPreview,
  }
})

/** The recipe with one more step; `why` is the rule that asks for it, or says that a person did. */
export const withStep = (
  recipe: Recipe,
  why: string,
  { remedy, options }: Pick<RemedyOffer, 'remedy' | 'options'>,
): Recipe => ({ steps: [...recipe.steps, { id: crypto.randomUUID(), remedy, options, on: true, why }] })

/** The recipe with a step for each of the offers. */
const withSteps = (recipe: Recipe, why: string, offers: readonly RemedyOffer[]): Recipe =>
  offers
    .flatMap((offer) => optionsOfOffer(offer).map((options) => ({ ...offer, options, also: [] })))
    .reduce((all, offer) => withStep(all, why, offer), recipe)

/** The recipe with other options for one of its steps. */
export const withOptions = (recipe: Recipe, step: string, options: RemedyOptions): Recipe => ({
  steps: recipe.steps.map((s) => (s.id === step ? { ...s, options } : s)),
})
