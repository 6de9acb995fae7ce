/** Ends the process in an orderly way at SIGINT and SIGTERM. */
export function stopOnSignals(stop: () => Promise<void>): void {
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      if (stopping) return
      stopping = true
      stop().then(
        () => process.exit(0),
        () => process.exit(1),
      )
    })
}
