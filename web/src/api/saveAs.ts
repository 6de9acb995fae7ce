/** Has the browser save a value as a JSON file. */
export function saveAsJson(name: string, value: unknown): void {
  const address = URL.createObjectURL(
    new Blob([`${JSON.stringify(value, null, 2)}\n`], { type: 'application/json' }),
  )
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  URL.revokeObjectURL(address)
}
