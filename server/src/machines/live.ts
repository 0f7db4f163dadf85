import type { Server } from 'node:http'
import { WebSocketServer } from 'ws'
import type { Desks } from './desks.ts'

/** At most so often is told what is new, ms. */
const EVERY_MS = 120

/** How all machines stand, to every open page, as it changes: a WebSocket at `/api/live`. */
export function serveLive(server: Server, desks: Desks): void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 })
  server.on('upgrade', (request, socket, head) => {
    if (request.url !== '/api/live' || !sameOrigin(request.headers.origin, request.headers.host)) {
      socket.destroy()
      return
    }
    sockets.handleUpgrade(request, socket, head, (client) => {
      client.on('error', () => {})
      client.send(JSON.stringify({ machines: desks.all() }))
    })
  })
  let due: ReturnType<typeof setTimeout> | undefined
  let last = ''

  desks.onChange = () => {
    due ??= setTimeout(() => {
      due = undefined
      const text = JSON.stringify({ machines: desks.all() })
      // An idle machine says the same again and again.
      if (text === last) return
      last = text

      // Somebody who cannot keep up gets the next one.
      for (const client of sockets.clients) if (client.bufferedAmount < 65_536) client.send(text)
    }, EVERY_MS)
  }
  server.on('close', () => {
    clearTimeout(due)
    for (const client of sockets.clients) client.terminate()
    sockets.close()
  })
}

/** Pages of other sites must not listen. */
function sameOrigin(origin: string | undefined, host: string | undefined): boolean {
  if (origin === undefined) return true
  try {
    const name = new URL(origin).hostname
    return new URL(origin).host === host || name === '127.0.0.1' || name === 'localhost'
  } catch {
    return false
  }
}
