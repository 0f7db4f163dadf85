/** A time for reading: `0:07`, `12:41`, `1:02:03`. @param seconds ≥ 0, rounded to whole seconds */
export function formatDuration(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds))
  const s = String(whole % 60).padStart(2, '0')
  const minutes = Math.floor(whole / 60)
  if (minutes < 60) return `${minutes}:${s}`
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}:${s}`
}

/** Reads a time: `12:41`, `1:02:03`, or seconds. @returns s ≥ 0 @throws Error with a sentence for the operator */
export function parseDuration(text: string): number {
  const parts = text.trim().split(':')
  if (parts.length > 3 || !parts.every((part) => /^\s*\d+([.,]\d+)?\s*$/.test(part)))
    throw new Error('Write it as 12:41, or in seconds.')
  return parts.reduce((sum, part) => sum * 60 + Number(part.replace(',', '.')), 0)
}
