import { silent, told } from './live-slice.ts'
import { store } from './store.ts'

const AGAIN_MS = 1000

let started = false

/** Listens to how the machines stand, as long as the page is open; a lost connection is made again. */
export function listenLive(): void {
  if (started) return
  started = true
  const connect = (): void => {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`)
    socket.onmessage = ({ data }) => {
      const { machines } = JSON.parse(String(data))
      store.dispatch(told(machines))
    }
    socket.onclose = () => {
      store.dispatch(silent())
      setTimeout(connect, AGAIN_MS)
    }
  }
  connect()
}
