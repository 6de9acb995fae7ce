import type { Request } from 'express'

/**
 * Ends a request whose sender sends nothing for so long: it would hold a connection and a half-written file for
 * ever. Once all has come the connection may be as quiet as it likes.
 */
export function endStalled(request: Request, seconds: number): void {
  const { socket } = request
  const end = (): void => void socket.destroy()
  socket.setTimeout(seconds * 1000, end)
  const over = (): void => {
    socket.setTimeout(0)
    socket.off('timeout', end)
  }
  request.once('end', over)
  request.once('close', over)
}
