import type { Stroke } from './bed.ts'

/** What turns in the place of y, and how it really is: nobody outside knows all of it. mm, mm/s, mm/s². */
export interface Turned {
  /** What the controller's y is counted for: once around is π of it. */
  readonly diameter: number
  /** Its true diameter, where it is another one; what it is at places along x, where it is no cylinder. */
  readonly truly?: number
  readonly profile?: readonly (readonly [x: number, diameter: number])[]
  /** It is tilted so that its upper side is level: nothing of it rises or falls along x. */
  readonly levelled?: boolean
  /** As set at the controller. */
  readonly speed?: number
  readonly acceleration?: number
  /** Its surface goes so much of what y says: rollers that are worn, steps that are wrong. */
  readonly share?: number
  /** It turns about a line so far beside its own middle. */
  readonly eccentric?: number
  /** Lying on rollers it slips above so quick a start. */
  readonly slipsAt?: number
}

/** What is uneven is burned in parts so long, mm. */
const PART_MM = 1
/** Time is followed in steps as short as this while something may slip, s. */
const STEP_S = 0.0005

/** An object in a rotary: where its surface is, for what the controller says. */
export class Rotary {
  readonly of: Turned
  /** How fast its surface really goes, and how far it lags behind, mm. */
  private speed = 0
  private lag = 0

  constructor(of: Turned) {
    this.of = of
  }

  /** Once around its surface, mm. */
  get around(): number {
    return Math.PI * (this.of.truly ?? this.of.diameter)
  }

  /** The drive goes from one speed to another in some time: what does not slip follows. */
  drive(from: number, to: number, seconds: number): void {
    const { slipsAt } = this.of
    if (slipsAt === undefined || seconds <= 0) return
    const steps = Math.max(1, Math.ceil(seconds / STEP_S))
    const dt = seconds / steps
    for (let i = 0; i < steps; i++) {
      const wanted = from + ((to - from) * (i + 1)) / steps
      const most = slipsAt * dt
      this.speed += Math.max(-most, Math.min(most, wanted - this.speed))
      this.lag += (wanted - this.speed) * dt
      // Nothing to follow and nothing that pulls: it goes along.
      if (i === steps - 1 && Math.abs(wanted - this.speed) < 1e-9) this.speed = wanted
    }
  }

  /** How far it lags behind its drive. */
  get lagMm(): number {
    return this.lag
  }

  /** The same everywhere: as thick, and as high. */
  get isEven(): boolean {
    return this.of.profile === undefined && !this.of.eccentric
  }

  /** Where on its surface the beam is. @param y of the controller @param lag how far it lagged then */
  place(y: number, lag = this.lag): number {
    const { share = 1, eccentric = 0 } = this.of
    const on = (y - lag) * share
    return eccentric === 0 ? on : on + eccentric * Math.sin((2 * Math.PI * on) / this.around)
  }

  /** How much higher its surface is under the beam than where it was focused, at a place on it. */
  rise(x: number, on: number): number {
    const { eccentric = 0, levelled, diameter } = this.of
    const out = levelled ? 0 : ((this.wider(x) - 1) * diameter) / 2
    return eccentric === 0 ? out : out + eccentric * (Math.cos((2 * Math.PI * on) / this.around) - 1)
  }

  /** How much farther around it goes at a place along it than where it is counted for, as a share: less where it is thinner. */
  wider(x: number): number {
    const { profile, diameter } = this.of
    if (!profile || profile.length === 0) return 1
    const next = profile.findIndex(([at]) => at > x)
    if (next <= 0) return profile[next < 0 ? profile.length - 1 : 0][1] / diameter
    const [[x0, d0], [x1, d1]] = [profile[next - 1], profile[next]]
    return (d0 + ((d1 - d0) * (x - x0)) / (x1 - x0)) / diameter
  }

  /**
   * Strokes of the controller as they come to lie on its surface. Around and around the same place comes back, and what crosses the seam
   * lies on both sides of it. Where it is thinner the same turn is less of its surface: it gets more of the beam.
   * @param lagBefore how far it lagged where the stroke begins @returns each with how much higher the surface is there
   */
  *strokes(stroke: Stroke, lagBefore: number): Generator<Stroke & { readonly rise: number }> {
    const { around } = this
    const { x0, x1 } = stroke
    const [y0, y1] = [this.place(stroke.y0, lagBefore), this.place(stroke.y1)]
    const count = this.isEven ? 1 : Math.max(1, Math.ceil(Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0)) / PART_MM))
    const at = (a: number, b: number, i: number): number => a + ((b - a) * i) / count
    for (let k = 0; k < count; k++) {
      const part = { x0: at(x0, x1, k), y0: at(y0, y1, k), x1: at(x0, x1, k + 1), y1: at(y0, y1, k + 1) }
      const [x, y] = [(part.x0 + part.x1) / 2, (part.y0 + part.y1) / 2]
      const [dose, rise] = [stroke.dose / this.wider(x), this.isEven ? 0 : this.rise(x, y)]
      const turns = [Math.floor(Math.min(part.y0, part.y1) / around), Math.floor(Math.max(part.y0, part.y1) / around)]
      for (let turn = turns[0]; turn <= turns[1]; turn++)
        yield { ...stroke, ...part, y0: part.y0 - turn * around, y1: part.y1 - turn * around, dose, rise }
    }
  }
}
