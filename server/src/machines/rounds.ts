import type { MachineLink } from '@neotaxis/link'

/** A line of a round may wait for the head to get there, ms. */
const LINE_MS = 60_000
const LOOK_MS = 30

/** Short programs that go round and round, a line at a time, until they are told to end: framing, and pulses for the focus. */
export class Rounds {
  private going = false
  private round: Promise<void> = Promise.resolve()

  /**
   * Begins. @param label what the machine is told that it does @param rounds how often at most
   * @returns when it is over: whether it came to its end by itself @throws LinkError where the machine could not go on
   */
  begin(link: MachineLink, label: string, lines: readonly string[], rounds: number): Promise<boolean> {
    this.going = true
    const all = this.all(link, label, lines, rounds)
    this.round = all.then(
      () => {},
      () => {},
    )
    return all
  }

  /** No line goes out after this one. */
  end(): void {
    this.going = false
  }

  /** When whatever was under way is over. */
  get over(): Promise<void> {
    return this.round
  }

  private async all(link: MachineLink, label: string, lines: readonly string[], rounds: number): Promise<boolean> {
    try {
      for (let n = 0; n < rounds && this.going; n++) await this.once(link, label, lines)
    } catch (cause) {
      // Stopped in the middle of a line: that it was not taken is what was wanted.
      if (this.going) throw cause
    }
    const byItself = this.going
    this.going = false
    return byItself
  }

  private async once(link: MachineLink, label: string, lines: readonly string[]): Promise<void> {
    await link.command(`begin ${label}`)
    // The end of a round: what is planned is driven.
    for (const line of [...lines, 'M2']) {
      if (!this.going) return
      await link.command(line, LINE_MS)
    }
    while (this.going) {
      const { state, queue } = await link.ask()
      if (queue === 0 && state !== 'run') return
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
    }
  }
}
