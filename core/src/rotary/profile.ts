import type { RoundProfile } from '../job/document/workpiece.ts'

/** @throws RangeError with a sentence where it is none */
export function checkProfile(profile: RoundProfile): void {
  if (profile.length < 2) throw new RangeError('A profile has two diameters at least.')
  profile.forEach(({ alongMm, diameterMm }, i) => {
    if (!(diameterMm > 0)) throw new RangeError(`Diameter ${i + 1} must be more than 0.`)
    if (i > 0 && !(alongMm >= profile[i - 1].alongMm)) throw new RangeError(`Place ${i + 1} lies before the one before it.`)
  })
}

/** Its diameter at a place along its axis, mm; beyond its ends that of the end. */
export function diameterAt(profile: RoundProfile, alongMm: number): number {
  const next = profile.findIndex((place) => place.alongMm > alongMm)
  if (next === 0) return profile[0].diameterMm
  if (next < 0) return profile[profile.length - 1].diameterMm
  const [a, b] = [profile[next - 1], profile[next]]
  return a.diameterMm + ((b.diameterMm - a.diameterMm) * (alongMm - a.alongMm)) / (b.alongMm - a.alongMm)
}

/** The part of it, mm along its axis, where its surface lies at most so far from that at a place: there it is sharp in one focus. */
export function sharpAlong(profile: RoundProfile, focusAtMm: number, depthMm: number): readonly [number, number] {
  const r0 = diameterAt(profile, focusAtMm) / 2
  const [first, last] = [profile[0].alongMm, profile[profile.length - 1].alongMm]
  const step = (last - first) / STEPS
  const edge = (way: 1 | -1): number => {
    let at = focusAtMm
    for (;;) {
      const next = at + way * step
      if (next < first || next > last) return way > 0 ? last : first
      if (Math.abs(diameterAt(profile, next) / 2 - r0) > depthMm) {
        // Halved to where it leaves the focus.
        let [inside, outside] = [at, next]
        for (let i = 0; i < 40; i++) {
          const middle = (inside + outside) / 2
          if (Math.abs(diameterAt(profile, middle) / 2 - r0) > depthMm) outside = middle
          else inside = middle
        }
        return inside
      }
      at = next
    }
  }
  return [edge(-1), edge(1)]
}

/** Places along it that are looked at, where it leaves the focus. */
const STEPS = 2000
