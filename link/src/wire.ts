import { connect } from 'node:net'

/** Something about a machine's connection that the operator should know; `message` is a sentence. */
export class LinkError extends Error {}

/** Bytes to a machine and back, as text in which each character is one byte. */
export interface Wire {
  write(text: string): void
  /** Ends it at once; `onClose` is told. */
  close(): void
  onData: (text: string) => void
  onClose: () => void
}

/** Makes a wire to an address. @throws LinkError with a sentence */
export type Dial = (address: string, timeoutMs: number) => Promise<Wire>

/** A wire over TCP. @param address `tcp://HOST:PORT` */
export const dialTcp: Dial = async (address, timeoutMs) => {
  const found = /^tcp:\/\/([^:/]+):(\d{1,5})\/?$/.exec(address)
  if (!found || Number(found[2]) > 65_535)
    throw new LinkError(`“${address}” is no machine's address. Write it as tcp://127.0.0.1:PORT.`)
  const socket = connect({ host: found[1], port: Number(found[2]) })
  await new Promise<void>((resolve, reject) => {
    const refuse = (): void => reject(new LinkError(`Nothing answers at ${address}. Is the machine switched on?`))
    socket.once('connect', resolve)
    socket.once('error', refuse)
    socket.setTimeout(timeoutMs, () => {
      socket.destroy()
      refuse()
    })
  })
  socket.setTimeout(0)
  socket.setNoDelay(true)
  const wire: Wire = {
    write: (text) => void socket.write(text, 'latin1'),
    close: () => void socket.destroy(),
    onData: () => {},
    onClose: () => {},
  }
  socket.on('data', (data) => wire.onData(data.toString('latin1')))
  socket.on('error', () => {})
  socket.on('close', () => wire.onClose())
  return wire
}
