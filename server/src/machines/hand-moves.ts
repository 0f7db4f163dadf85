import { LinkError, type MachineLink } from '@neotaxis/link'
import { Refusal } from '../refusal.ts'
import type { DeskState } from './desk-states.ts'

/** The desk that the head belongs to. */
export interface DeskOfHand {
  /** Takes the machine for somebody. @throws Refusal */
  readonly take: (event: 'home' | 'jog', operator: string) => MachineLink
  readonly state: () => DeskState
  /** The last move by hand has ended. */
  readonly over: () => void
  /** The machine is told to end moving. */
  readonly endsJog: () => void
}

/** The head is where it was sent, within this, mm. */
const THERE_MM = 0.02

/** What somebody does with the head by hand: each ends as soon as the desk is stopped. */
export class HandMoves {
  private readonly desk: DeskOfHand
  private hands = 0

  constructor(desk: DeskOfHand) {
    this.desk = desk
  }

  private async byHand(event: 'home' | 'jog', operator: string, work: (link: MachineLink) => Promise<void>): Promise<void> {
    const link = this.desk.take(event, operator)
    const state = this.desk.state()
    this.hands++
    try {
      await work(link)
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    } finally {
      // Several moves by hand may be under way: the last one ends it. A stop ended it already.
      if (--this.hands === 0 && this.desk.state() === state) this.desk.over()
    }
  }

  home(operator: string): Promise<void> {
    return this.byHand('home', operator, async (link) => {
      const report = await link.ask()
      if (report.state === 'hold' || report.state === 'pause') {
        link.send('\x18')
        await link.rested()
      }
      if (this.desk.state() !== 'homing') return
      await link.command('home', 60_000)
    })
  }

  /**
   * Homes it where it does not know its place, and brings the lens to a height: one turn, which a stop ends. mm, mm/s
   * @throws Refusal where it was stopped on its way
   */
  async getReady(operator: string, z: number | undefined, speed: number): Promise<void> {
    let ready = false
    await this.byHand('home', operator, async (link) => {
      const before = await link.rested()
      if (this.desk.state() !== 'homing') return
      if (before.state === 'alarm') await link.command('home', 60_000)
      const now = await link.rested()
      if (this.desk.state() !== 'homing') return
      if (z !== undefined) await link.command(`jog 0 0 ${(z - now.z).toFixed(3)} ${speed}`)
      const there = await link.rested()
      ready = this.desk.state() === 'homing' && there.state === 'idle' && (z === undefined || Math.abs(there.z - z) <= THERE_MM)
    })
    if (!ready) throw new Refusal(409, 'not-ready', 'It was stopped on its way, or did not get there: nothing was started.')
  }

  /** Tells the machine something that moves nothing, line by line. @throws Refusal where it was stopped before all was told */
  async configure(operator: string, lines: readonly string[]): Promise<void> {
    let told = 0
    await this.byHand('jog', operator, async (link) => {
      await link.rested()
      for (; told < lines.length && this.desk.state() === 'jogging'; told++) await link.command(lines[told])
    })
    if (told < lines.length) throw new Refusal(409, 'not-told', 'It was stopped before all was told: do it again.')
  }

  /** Touches what lies under the head. @returns how high that is over the bed, mm @throws Refusal */
  async probe(operator: string): Promise<number> {
    let height = 0
    await this.byHand('jog', operator, async (link) => {
      await link.rested()
      height = await link.probe()
    })
    return height
  }

  /** Moves by so much, no farther than the bed. mm, mm/s */
  jog(operator: string, dx: number, dy: number, dz: number, speed: number): Promise<void> {
    return this.byHand('jog', operator, (link) => link.command(`jog ${dx} ${dy} ${dz} ${speed}`))
  }

  /** Ends moving by hand. */
  jogEnd(): void {
    if (this.desk.state() === 'jogging' || this.desk.state() === 'idle') this.desk.endsJog()
  }

  /** Moves to a place on the bed, or to a height of the lens. mm, mm/s */
  go(operator: string, to: { x?: number; y?: number; z?: number }, speed: number): Promise<void> {
    return this.byHand('jog', operator, async (link) => {
      const now = await link.rested()
      const by = (target: number | undefined, at: number): number => (target === undefined ? 0 : target - at)
      if (this.desk.state() !== 'jogging') return
      await link.command(`jog ${by(to.x, now.x).toFixed(3)} ${by(to.y, now.y).toFixed(3)} ${by(to.z, now.z).toFixed(3)} ${speed}`)
    })
  }

  /**
   * Moves to a place and does something while the head stands there: nobody moves it meanwhile. mm, mm/s
   * @returns what was done there, and where the head stood
   * @throws Refusal where it was stopped on its way
   */
  async standing<T>(
    operator: string,
    to: { x: number; y: number; z?: number },
    speed: number,
    work: () => Promise<T>,
  ): Promise<{ readonly done: T; readonly at: { readonly x: number; readonly y: number; readonly z: number } }> {
    let made: { done: T; at: { x: number; y: number; z: number } } | undefined
    await this.byHand('jog', operator, async (link) => {
      const now = await link.rested()
      if (this.desk.state() !== 'jogging') return
      const dz = to.z === undefined ? 0 : to.z - now.z
      await link.command(`jog ${(to.x - now.x).toFixed(3)} ${(to.y - now.y).toFixed(3)} ${dz.toFixed(3)} ${speed}`)
      const { x, y, z } = await link.rested()
      if (this.desk.state() !== 'jogging' || Math.hypot(x - to.x, y - to.y) > THERE_MM) return
      const done = await work()
      if (this.desk.state() === 'jogging') made = { done, at: { x, y, z } }
    })
    if (!made)
      throw new Refusal(409, 'not-there', 'The head did not get there: it was stopped on its way, or the bed ends before.')
    return made
  }
}
