/** How copies of something close exactly around a circumference. */
export interface Repeats {
  readonly count: number
  /** All of them made so much larger; 1 where the room between them closes it. */
  readonly scale: number
  /** From the end of one to the beginning of the next, mm; less than 0: they lie over each other. */
  readonly gapMm: number
}

const checked = (widthMm: number, aroundMm: number): void => {
  if (!(widthMm > 0) || !Number.isFinite(widthMm)) throw new RangeError('What is repeated must be wider than 0.')
  if (!(aroundMm > 0) || !Number.isFinite(aroundMm)) throw new RangeError('The circumference must be more than 0.')
}

/** As many copies as come nearest to their own size, made as much larger or smaller that they close without a gap. */
export function closedByScale(widthMm: number, aroundMm: number): Repeats {
  checked(widthMm, aroundMm)
  const exact = aroundMm / widthMm
  const [less, more] = [Math.max(1, Math.floor(exact)), Math.ceil(exact)]
  // The one that changes the size least, as a share.
  const count = exact / less < more / exact ? less : more
  return { count, scale: exact / count, gapMm: 0 }
}

/** As many copies as there is room for at their own size, with the same gap between all of them. @param count where it is wished */
export function closedByGap(widthMm: number, aroundMm: number, count = Math.max(1, Math.floor(aroundMm / widthMm))): Repeats {
  checked(widthMm, aroundMm)
  return { count, scale: 1, gapMm: aroundMm / count - widthMm }
}

/** A place around something, from 0 to once around. */
export const broughtRound = (mm: number, aroundMm: number): number => ((mm % aroundMm) + aroundMm) % aroundMm

/** The shorter way from one place around something to another, mm: less than 0 is back. */
export function wayAround(fromMm: number, toMm: number, aroundMm: number): number {
  const way = broughtRound(toMm - fromMm, aroundMm)
  return way > aroundMm / 2 ? way - aroundMm : way
}

/** The place across from another: opposite the handle. */
export const opposite = (mm: number, aroundMm: number): number => broughtRound(mm + aroundMm / 2, aroundMm)

/** How wide something on a cylinder is to the eye that looks straight at its middle, mm: w = d · sin(arc / d). */
export function seenWidthMm(arcMm: number, diameterMm: number): number {
  // More than half of it is not seen.
  return arcMm >= (Math.PI * diameterMm) / 2 ? diameterMm : diameterMm * Math.sin(arcMm / diameterMm)
}

/** How wide something must be laid that looks so wide from the front, mm. @throws RangeError where nothing looks as wide */
export function arcSeenAs(seenMm: number, diameterMm: number): number {
  if (!(seenMm <= diameterMm)) throw new RangeError('From the front nothing looks wider than the object is thick.')
  return diameterMm * Math.asin(Math.max(0, seenMm) / diameterMm)
}
