import { computed, shallowRef, watch, type ShallowRef } from 'vue'
import type { AssetState, Finding, Station } from '@stern-gate/contract'
import type { StageMark } from '../stages/stageMarks'
import type { ModelView } from '../stages/modelFrame'
import { markOfFinding } from './markOfFinding'

/** The UV channel that a finding speaks of; the first one where it speaks of none. */
export const channelOf = (f: Finding | null | undefined): number =>
  f?.place.kind === 'channel'
    ? f.place.channel
    : Number(/^uv(\d)/.exec(f?.place.kind === 'triangles' ? f.place.evidence : '')?.[1] ?? 0)

/** What of the bench decides about marks. */
interface Marked {
  readonly station: Station
  readonly state: AssetState
  readonly findings: readonly Finding[]
  readonly chosen: Finding | null
  readonly previewing: boolean
  readonly query: Record<string, string | undefined>
}

/** What is marked: the chosen finding, the chosen row, or at Mesh and UVs every faulty triangle. */
export function useMarks(
  props: Marked,
  { view, channel }: { view: () => ModelView; channel: () => number },
): ShallowRef<StageMark[]> {
  /**
   * Faulty triangles of a station while nothing is chosen: those of stops and cautions. A note is marked when
   * it is chosen; what it speaks of is often half the model, and as it should be.
   */
  const faultyTriangles = computed(() =>
    props.station === 'mesh' || props.station === 'uvs'
      ? props.findings.filter(
          (f) =>
            f.level !== 'note' &&
            f.place.kind === 'triangles' &&
            (props.station === 'mesh' || channelOf(f) === channel()),
        )
      : [],
  )
  const marks = shallowRef<StageMark[]>([])
  watch(
    () =>
      [
        props.chosen,
        props.state,
        props.station,
        props.previewing,
        props.query['row'],
        faultyTriangles.value,
        view(),
      ] as const,
    async ([chosen, state, station, previewing, wanted, faulty, now]) => {
      const own: StageMark | null =
        station === 'slots' && wanted && now === 'slots'
          ? { kind: 'slot', slot: wanted }
          : station === 'collision' && wanted
            ? { kind: 'node', node: wanted }
            : null
      const found = chosen ? [chosen] : faulty
      const list = previewing
        ? []
        : (await Promise.all(found.map((f) => markOfFinding(f, state)))).filter((m) => m !== null)
      if (state === props.state) marks.value = own ? [...list, own] : list
    },
    { immediate: true },
  )
  return marks
}
