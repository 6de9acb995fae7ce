/** The first byte that is not the kernels' own. */
export function heapBegin(): usize {
  return (__heap_base + 15) & ~15
}
