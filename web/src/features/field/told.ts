// How numbers, times and dates are told: as the browser's own language and clock say.
const once = <T>(make: () => T): (() => T) => {
  let made: T | undefined
  return () => (made ??= make())
}
const clock = once(() => new Intl.DateTimeFormat(undefined, { timeStyle: 'short' }))
const exactClock = once(() => new Intl.DateTimeFormat(undefined, { timeStyle: 'medium' }))
const days = once(() => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' }))
const moments = once(() => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }))
const counts = once(() => new Intl.NumberFormat(undefined, { maximumFractionDigits: 0 }))

/** A moment: ms since 1970, or ISO 8601. */
type At = number | string

/** “17:04”, or “5:04 PM”. */
export const tellTime = (at: At): string => clock().format(new Date(at))
/** With seconds. */
export const tellExactTime = (at: At): string => exactClock().format(new Date(at))
/** “27 Nov 2026”. */
export const tellDay = (at: At): string => days().format(new Date(at))
/** “27 Nov 2026, 17:04”. */
export const tellMoment = (at: At): string => moments().format(new Date(at))
/** “12,400”. */
export const tellCount = (n: number): string => counts().format(n)

/** Whether the browser's clock goes to twelve. */
export const isTwelveHours = once(() => clock().resolvedOptions().hour12 ?? false)

const money = once(() => new Intl.NumberFormat(undefined, { minimumFractionDigits: 2, maximumFractionDigits: 2 }))
const areas = once(() => new Intl.NumberFormat(undefined, { maximumSignificantDigits: 3 }))

/** “12.40 €”. @param cents hundredths */
export const tellMoney = (cents: number, currency: string): string => `${money().format(cents / 100)} ${currency}`
/** “0.24 m²”, or “36 cm²” of what is small. */
export const tellArea = (mm2: number): string =>
  mm2 >= 100_000 ? `${areas().format(mm2 / 1e6)} m²` : `${areas().format(mm2 / 100)} cm²`
