import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import type { Recipe, RemedyOptions, StepData, TintChannel } from '@stern-gate/contract'
import { keepStepData } from '../api/client'
import { useBench, withOptions, withStep } from './bench'
import { useFaults } from './faults'

const PAINT = 'mesh/paint-colours',
  PART = 'slots/part'

/**
 * What is done by hand on the model: a channel of a slot's vertex colours is painted, a part of it picked, or points
 * for its pivot.
 */
export type Handwork =
  | { kind: 'paint'; slot: string; set: number; channel: TintChannel }
  | { kind: 'pick'; slot: string }
  | { kind: 'pivot' }

/** Work by hand on the model of the bench, one thing at a time; it ends with the asset. */
export const useHandwork = defineStore('handwork', () => {
  const bench = useBench(),
    faults = useFaults()
  const now = shallowRef<Handwork | null>(null),
    keeping = ref(false)
  const begin = (work: Handwork): void => void (now.value = work)
  const end = (): void => void (now.value = null)
  watch(() => bench.detail?.id, end)

  /** Stores what was made and puts the step that names it into the recipe; what was made stays where that failed. */
  async function keep(data: StepData, put: (recipe: Recipe, sha256: string) => Recipe): Promise<void> {
    const id = bench.detail?.id
    if (id === undefined || keeping.value) return
    keeping.value = true
    try {
      const sha256 = await keepStepData(data)
      await bench.untilFree()
      if (bench.detail?.id === id && (await bench.keep(put(bench.detail.recipe, sha256)))) end()
    } catch (error) {
      faults.put(error)
    } finally {
      keeping.value = false
    }
  }
  /** Keeps what was painted, in place of the step that painted this channel before. */
  async function keepPaint(painted: StepData): Promise<void> {
    if (now.value?.kind !== 'paint') return
    const { slot, set, channel } = now.value
    await keep(painted, (recipe, data) => withPaint(recipe, { slot, set, channel, data }))
  }
  /** Gives what was picked a slot, as a step. */
  async function keepPart(name: string, picked: StepData): Promise<void> {
    if (now.value?.kind !== 'pick') return
    const { slot } = now.value
    await keep(picked, (recipe, data) =>
      withStep(recipe, 'own', { remedy: PART, options: { name, slot, data } }),
    )
  }
  return { now, keeping, begin, end, keepPaint, keepPart }
})

function withPaint(recipe: Recipe, options: RemedyOptions): Recipe {
  const step = recipe.steps.findLast(
    (s) =>
      s.on &&
      s.remedy === PAINT &&
      ['slot', 'set', 'channel'].every((key) => s.options[key] === options[key]),
  )
  return step ? withOptions(recipe, step.id, options) : withStep(recipe, 'own', { remedy: PAINT, options })
}
