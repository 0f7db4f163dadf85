import { connect } from 'node:net'

/** Asks the outside of a simulated machine for something: its button, its lid, what lies in it. One request a connection. */
export function atPanel<T extends object>(port: number, request: object, timeoutMs = 20_000): Promise<T> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host: '127.0.0.1', port })
    const pieces: Buffer[] = []
    const fail = (message: string): void => {
      socket.destroy()
      reject(new Error(message))
    }
    socket.setTimeout(timeoutMs, () => fail('The simulated machine does not answer.'))
    socket.once('error', () => fail('The simulated machine is not there.'))
    socket.on('data', (data) => {
      pieces.push(data)
      if (data[data.length - 1] !== 10) return
      const answer = JSON.parse(Buffer.concat(pieces).toString('utf8')) as { ok: boolean; message?: string } & T
      socket.destroy()
      if (answer.ok) resolve(answer)
      else reject(new Error(answer.message ?? 'It cannot be done.'))
    })
    socket.write(`${JSON.stringify(request)}\n`)
  })
}
