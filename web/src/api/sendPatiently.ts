/** The server is there and waits for its database or its disk: it is asked again after so many milliseconds. */
export const AGAIN_AFTER = [1000, 2000, 4000, 8000] as const
const AWAY = 503

/** Sends a form, and again while the server waits; the same file at the same path of a delivery is one file. */
export async function sendPatiently(address: string, form: FormData, signal: AbortSignal): Promise<Response> {
  const send = (): Promise<Response> => fetch(address, { method: 'POST', body: form, signal })
  for (const wait of AGAIN_AFTER) {
    const response = await send()
    if (response.status !== AWAY) return response
    await new Promise((resolve) => setTimeout(resolve, wait))
  }
  return send()
}
