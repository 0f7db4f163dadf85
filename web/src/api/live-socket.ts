import type { LiveTold } from '@neotaxis/contract'
import { misshapen } from '@neotaxis/contract/paths'

const AGAIN_MS = 1000

interface Listener {
  readonly told: (told: LiveTold) => void
  /** The connection is gone: what was told last is old. */
  readonly silent: () => void
}

/** Listens to how the machines stand; a lost connection is made again. What cannot be understood counts as nothing told. @returns ends it */
export function liveSocket({ told, silent }: Listener): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  let socket: WebSocket | undefined
  let ended = false
  const connect = (): void => {
    const now = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`)
    socket = now
    now.onmessage = ({ data }) => {
      // A connection that was given up may still have something to say.
      if (ended || socket !== now) return
      let answer: unknown
      try {
        answer = JSON.parse(String(data))
      } catch {
        answer = undefined
      }
      if (misshapen('live', answer)) silent()
      else told(answer as LiveTold)
    }
    now.onclose = () => {
      if (ended || socket !== now) return
      silent()
      timer = setTimeout(connect, AGAIN_MS)
    }
  }
  connect()
  return () => {
    ended = true
    clearTimeout(timer)
    socket?.close()
  }
}
