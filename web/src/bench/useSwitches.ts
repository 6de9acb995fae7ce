import { computed, shallowRef, watch } from 'vue'
import type { AssetState, RemedyOptions } from '@stern-gate/contract'
import { coverageOf, toFourFigures } from '@stern-gate/core/lods'
import { switchesByError, switchesOfFile, type Switches } from '../stages/levelsLayout'

/** Where the levels on the stage are switched: as the file says, else by their error, until a pin is moved. */
export function useSwitches(state: () => AssetState) {
  const moved = shallowRef<Switches | null>(null),
    looked = shallowRef<number | null>(null)
  watch(
    () => state().model,
    () => {
      moved.value = null
      looked.value = null
    },
  )
  const inFile = computed(() => switchesOfFile(state()))
  const switches = computed(() => moved.value ?? inFile.value ?? switchesByError(state()))
  /** Moves a pin; the others give way, so that no level comes before a finer one. */
  function move(pin: number, distance: number): void {
    const all = [...switches.value.levels, switches.value.cull]
    const next = all.map((d, i) =>
      i === pin ? distance : i < pin ? Math.min(d, distance) : Math.max(d, distance),
    )
    moved.value = { levels: next.slice(0, -1), cull: next.at(-1)! }
  }
  /** The options of the step that writes them. */
  const options = computed<RemedyOptions>(() => {
    const { mesh, screen } = state(),
      { levels, cull } = switches.value
    // Infinitely far away it covers nothing: drawn at any distance
    const coverages = [...levels, cull].map((d) => coverageOf(mesh?.chain?.radius ?? 1, d, screen))
    return { coverages: toFourFigures(coverages) }
  })
  return {
    inFile,
    switches,
    looked,
    isMoved: computed(() => moved.value !== null),
    move,
    again: () => void (moved.value = null),
    options,
  }
}
