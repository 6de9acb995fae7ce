import { onBeforeUnmount, shallowRef, watch, type Ref, type ShallowRef } from 'vue'

/** So many new lines are made in one frame: the first ones of a page take several milliseconds each. */
const A_FRAME = 2
/** More lines than this no window shows; what stands further down is made when it is scrolled to. */
const A_WINDOW = 40

/**
 * The rows to show next: those that are wanted and shown already, and of the new ones, from the top, so many
 * that a frame is not held up. With nothing shown all are.
 */
export function nextShown<Row extends { id: string }>(shown: readonly Row[], wanted: Row[]): Row[] {
  if (shown.length === 0) return wanted
  const known = new Set(shown.map((r) => r.id))
  let fresh = 0,
    kept = 0
  const next = wanted.filter((r) => {
    const now = known.has(r.id) || kept >= A_WINDOW || fresh++ < A_FRAME
    if (now) kept++
    return now
  })
  return next.length === wanted.length ? wanted : next
}

/** Rows that come in a crowd are shown frame by frame, so that the page stays at hand meanwhile. */
export function usePacedRows<Row extends { id: string }>(wanted: Ref<Row[]>): ShallowRef<Row[]> {
  const shown = shallowRef<Row[]>(wanted.value)
  let frame = 0
  const step = (): void => {
    cancelAnimationFrame(frame)
    shown.value = nextShown(shown.value, wanted.value)
    if (shown.value !== wanted.value) frame = requestAnimationFrame(step)
  }
  watch(wanted, step)
  onBeforeUnmount(() => cancelAnimationFrame(frame))
  return shown
}
