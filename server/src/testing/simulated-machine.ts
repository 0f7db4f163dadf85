// A simulated machine without a port, whose time is that of the test's timers.
import { type Dial, LinkError, type Wire } from '@neotaxis/link'
import { attendMachine, type Fault, type Front, type Machine, type Pace } from '@neotaxis/stand-ins'

/** A way to a machine that can be cut, and that takes a while either way. */
export interface Cable {
  readonly dial: Dial
  /** Cuts it: both ends notice. */
  cut(): void
  /** Nothing answers any more until it is plugged in. */
  unplug(): void
  plug(): void
  readonly front: Front
}

/** @param latencyMs how long bytes are on their way, asked for each piece */
export function cableTo(machine: Machine, latencyMs: () => number, pace: Pace, faults: readonly Fault[] = []): Cable {
  const front = attendMachine(machine, { pace, faults, stallMs: 1500, delayMs: 100 })
  let cutNow: (() => void) | undefined
  let plugged = true
  const dial: Dial = async (address) => {
    await new Promise((resolve) => setTimeout(resolve, 5))
    if (!plugged) throw new LinkError(`Nothing answers at ${address}. Is the machine switched on?`)
    let open = true
    const wire: Wire = {
      onData: () => {},
      onClose: () => {},
      write: (text) => void later(() => heard?.data(text)),
      close: () => end(),
    }
    // Pieces arrive in the order in which they were sent.
    let lastAt = 0
    const later = (work: () => void): void => {
      lastAt = Math.max(lastAt, Date.now() + latencyMs())
      setTimeout(() => open && work(), lastAt - Date.now())
    }
    const end = (): void => {
      if (!open) return
      open = false
      heard?.close()
      wire.onClose()
    }
    const heard = front.connect({ write: (text) => later(() => wire.onData(text)), destroy: end })
    if (heard) cutNow = end
    else
      later(() => {
        wire.onData('busy\n')
        end()
      })
    return wire
  }
  return {
    dial,
    front,
    cut: () => cutNow?.(),
    unplug: () => {
      plugged = false
      cutNow?.()
    },
    plug: () => {
      plugged = true
    },
  }
}
