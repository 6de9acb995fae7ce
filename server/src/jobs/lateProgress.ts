/** Files that take less than this tell nothing of what is being done: there are thousands of them. */
const QUIET_MS = 250

/** Passes on the newest word once the work has taken a while, and every later one. */
export function lateProgress(
  pass: (doing: string) => void,
  quietMs = QUIET_MS,
): { tell: (doing: string) => void; end: () => void } {
  let last: string | null = null,
    late = false
  const timer = setTimeout(() => {
    late = true
    if (last !== null) pass(last)
  }, quietMs)
  return {
    tell(doing) {
      last = doing
      if (late) pass(doing)
    },
    end: () => clearTimeout(timer),
  }
}
