import type { Server } from 'node:http'
import { WebSocketServer } from 'ws'
import { strangeRequest } from '../access/guard.ts'
import { identify } from '../access/sign-in.ts'
import type { Desks } from './desks.ts'

export interface LiveAccess {
  readonly hosts: ReadonlySet<string>
  readonly shopKey: string | undefined
  /** After so long it is looked again whether whoever listens is still signed in, ms. */
  readonly lookAgainMs?: number
}

/** At most so often is told what is new, ms. */
const EVERY_MS = 120

/** How all machines stand, to every open page, as it changes: a WebSocket at `/api/live`. */
export function serveLive(server: Server, desks: Desks, { hosts, shopKey, lookAgainMs = 10_000 }: LiveAccess): void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 })
  server.on('upgrade', async (request, socket, head) => {
    socket.on('error', () => {})
    // Listening is no order, but what is told is for this server's pages only: as if it were one.
    const strange = request.url !== '/api/live' || strangeRequest(request, hosts, true)
    const who = strange ? undefined : await identify(request.headers, desks, shopKey).catch(() => undefined)
    if (!who) {
      socket.destroy()
      return
    }
    sockets.handleUpgrade(request, socket, head, (client) => {
      client.on('error', () => {})
      // A database that is away says nothing about who is signed in.
      const look = setInterval(() => {
        identify(request.headers, desks, shopKey).then(
          (still) => still || client.close(),
          () => {},
        )
      }, lookAgainMs)
      client.on('close', () => clearInterval(look))
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
