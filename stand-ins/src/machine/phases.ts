import type { Segment } from './planner.ts'
import type { Mirrors } from './truth.ts'

/** A stretch of time with an even change of speed. Seconds, mm, mm/s. */
export interface Phase {
  readonly seconds: number
  readonly from: number
  readonly to: number
}

const way = (phase: Phase): number => ((phase.from + phase.to) / 2) * phase.seconds

/** How far a phase goes in its first seconds, and how fast it is then. */
export function within(phase: Phase, seconds: number): { readonly way: number; readonly speed: number } {
  if (seconds >= phase.seconds) return { way: way(phase), speed: phase.to }
  const gain = (phase.to - phase.from) / phase.seconds
  return { way: phase.from * seconds + (gain * seconds * seconds) / 2, speed: phase.from + gain * seconds }
}

/** What is left of a move of a head with inertia: up or down to its speed, on, down to the speed of the next. */
export function headPhases(s: Segment, top: number, exit: number): Phase[] {
  const a = s.acceleration
  const length = s.length - s.done
  const phases: Phase[] = []
  if (length > 0) {
    const from = s.entry
    if (from > top) {
      // Told to go slower on the way: down first, as far as there is room.
      const down = Math.min(length, (from * from - top * top) / (2 * a))
      const slow = Math.sqrt(Math.max(0, from * from - 2 * a * down))
      phases.push({ seconds: (from - slow) / a, from, to: slow })
      if (length - down > 1e-12) phases.push(...rampUpAndDown(slow, top, exit, a, length - down))
    } else phases.push(...rampUpAndDown(from, top, exit, a, length))
  }
  if (s.wait > s.waited) phases.push({ seconds: s.wait - s.waited, from: 0, to: 0 })
  return phases
}

function rampUpAndDown(from: number, top: number, exit: number, a: number, length: number): Phase[] {
  const to = Math.min(exit, top, Math.sqrt(from * from + 2 * a * length))
  const peak = Math.min(top, Math.sqrt(Math.max(0, a * length + (from * from + to * to) / 2)))
  const flat = Math.max(0, length - (peak * peak - from * from) / (2 * a) - (peak * peak - to * to) / (2 * a))
  return [
    { seconds: Math.max(0, peak - from) / a, from, to: peak },
    { seconds: peak > 0 ? flat / peak : 0, from: peak, to: peak },
    { seconds: Math.max(0, peak - to) / a, from: peak, to },
  ]
}

/** Braking to rest from where the head is: as far as this move reaches. */
export function brakingPhases(s: Segment): Phase[] {
  const a = s.acceleration
  const length = s.length - s.done
  const from = s.entry
  const to = Math.sqrt(Math.max(0, from * from - 2 * a * length))
  return from > 0 ? [{ seconds: (from - to) / a, from, to }] : []
}

/** What is left of a move of mirrors: one speed, then a wait until they have settled. */
export function mirrorPhases(s: Segment, top: number, next: Segment | undefined, mirrors: Mirrors): Phase[] {
  const length = s.length - s.done
  const phases: Phase[] = length > 0 ? [{ seconds: length / top, from: top, to: top }] : []
  const wait = (s.length > 0 ? settling(s, next, mirrors) : 0) + s.wait - s.waited
  if (wait > 0) phases.push({ seconds: wait, from: 0, to: 0 })
  return phases
}

function settling(s: Segment, next: Segment | undefined, { jumpDelay, markDelay, turnDelay }: Mirrors): number {
  if (s.rapid) {
    const { least, most, fullMm } = jumpDelay
    return least + (most - least) * Math.min(1, s.length / fullMm)
  }
  if (!next || next.rapid || next.length === 0) return markDelay
  const cosTurn = s.ux * next.ux + s.uy * next.uy
  return (turnDelay * (1 - cosTurn)) / 2
}
