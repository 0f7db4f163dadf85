// For tests: what is asked at the outside of a stand-in, and what it answers.
import { connect } from 'node:net'

/** The answer as it comes: one line of JSON. */
export const atPanel = (port: number, what: object): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(`${JSON.stringify(what)}\n`))
    socket.once('data', (data) => {
      socket.destroy()
      resolve(data.toString())
    })
    socket.once('error', reject)
  })
