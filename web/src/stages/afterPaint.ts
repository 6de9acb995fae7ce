/** Resolves once what the page shows just now is on the screen; a hidden page is not waited for. */
export const afterPaint = (): Promise<void> =>
  new Promise((resolve) => {
    if (document.hidden) return resolve()
    requestAnimationFrame(() => setTimeout(resolve))
  })
